import { useState } from 'react';
import { askedOfSchema, type SigningInPage } from '../../../contract/wire/index.ts';
import { ProblemNote, Radios, useNotice } from '../../parts/index.ts';
import { useAskSecond } from '../../queries/index.ts';
import { t } from '../../words/signing-in.ts';

/** Of whom the house asks a second factor, as stewards set it. */
export function AskedOf({ askedOf }: { askedOf: SigningInPage['second']['askedOf'] }) {
  const ask = useAskSecond();
  const notice = useNotice();
  // What was just chosen stands at once, and is taken back where it is refused.
  const [wanted, setWanted] = useState<typeof askedOf | null>(null);
  return (
    <fieldset className="mt-4" disabled={ask.isPending}>
      <legend>
        <h2>{t('askedOf')}</h2>
      </legend>
      <p className="reading quiet">{t('askedOfSays')}</p>
      <Radios
        name="asked-of"
        options={askedOfSchema.options.map((of) => [of, t(`of.${of}`)] as const)}
        chosen={wanted ?? askedOf}
        onChange={(of) => {
          setWanted(of);
          ask.mutate(of, {
            onSuccess: () => notice({ words: t('isAskedNow', { of: t(`of.${of}`) }) }),
            onSettled: () => setWanted(null),
          });
        }}
      />
      {ask.error && <ProblemNote error={ask.error} />}
    </fieldset>
  );
}
