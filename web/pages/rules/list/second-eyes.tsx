import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { EYED, type Eyed } from '../../../../core/rules/index.ts';
import { ProblemNote, useNotice, useViewer } from '../../../parts/index.ts';
import { useSaveEyes } from '../../../queries/index.ts';
import { t } from '../../../words/rules.ts';
import { phrases } from '../../../words/index.ts';

/** Which rules a second pair of eyes looks at before they are live: stewards say so, the others read it. */
export function SecondEyes() {
  const { me, directory } = useViewer();
  const save = useSaveEyes();
  const notice = useNotice();
  const { secondEyes } = directory.house;
  /** What is being saved, until it stands. */
  const [saving, setSaving] = useState<readonly Eyed[] | null>(null);
  const shown = saving ?? secondEyes;
  const isSteward = me.role === 'steward';
  if (!isSteward && secondEyes.length === 0) return null;
  const names = secondEyes.map((kind) => t(`eyed.${kind}`));
  const turn = (kind: Eyed) => {
    const kinds = EYED.filter((one) => (one === kind) !== shown.includes(one));
    setSaving(kinds);
    save.mutate(kinds, {
      onSuccess: () => notice({ words: t('eyesSaved') }),
      onSettled: () => setSaving(null),
    });
  };
  return (
    <section className="mt-5" aria-labelledby="second-eyes">
      <h2 id="second-eyes">{t('secondEyes')}</h2>
      <p className="quiet mb-2">{t('whatSecondEyesAre')}</p>
      {isSteward ? (
        <fieldset>
          <legend className="visually-hidden">{t('secondEyes')}</legend>
          {EYED.map((kind) => (
            <Form.Check
              key={kind}
              id={`eyed-${kind}`}
              type="checkbox"
              label={t(`eyed.${kind}`)}
              checked={shown.includes(kind)}
              onChange={() => turn(kind)}
            />
          ))}
        </fieldset>
      ) : (
        <p>{phrases().and(names)}</p>
      )}
      {save.error && <ProblemNote error={save.error} />}
    </section>
  );
}
