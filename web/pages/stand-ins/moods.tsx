import { Button } from 'react-bootstrap';
import { z } from 'zod';
import { MOODS, type Moods as Wanted, moodsSchema, type StandInName } from '../../../contract/wire/index.ts';
import { Refused, SelectField, SendForm, type Sending, TextField, typedWhole, useSending } from '../../forms/index.ts';
import { Loaded, useNotice } from '../../parts/index.ts';
import { useMoods, useSetMoods } from '../../queries/index.ts';
import { t } from '../../words/stand-ins.ts';

const NAMES = ['mail', 'text', 'hook'] as const satisfies readonly StandInName[];
const { mail, text, hook } = moodsSchema.shape;
const typed = { seconds: typedWhole(mail.shape.seconds) };
const shape = z.strictObject({ mail: mail.extend(typed), text: text.extend(typed), hook: hook.extend(typed) });

/** How each stand-in treats what it is handed: well, or as badly as somebody wants to see. */
export function Moods() {
  const moods = useMoods();
  return (
    <Loaded query={moods} what={t('howTheyBehave')}>
      {(known) => <MoodForm known={known} />}
    </Loaded>
  );
}

function MoodForm({ known }: { known: Wanted }) {
  const keep = useSetMoods();
  const notice = useNotice();
  const sending = useSending({
    shape,
    start: {
      mail: { ...known.mail, seconds: String(known.mail.seconds) },
      text: { ...known.text, seconds: String(known.text.seconds) },
      hook: { ...known.hook, seconds: String(known.hook.seconds) },
    },
    send: (wanted) => keep.mutateAsync(wanted),
    onSent: () => notice({ words: t('theyBehaveSo') }),
    fieldOf: (path) => path,
  });
  return (
    <SendForm sending={sending} className="moods">
      {NAMES.map((name) => (
        <OneMood key={name} name={name} sending={sending} />
      ))}
      <Refused sending={sending} />
      <Button type="submit" disabled={sending.isPending}>
        {t('haveThemBehaveSo')}
      </Button>
    </SendForm>
  );
}

function OneMood({ name, sending }: { name: StandInName; sending: Sending<z.input<typeof shape>> }) {
  return (
    <fieldset className="group-editor">
      <legend>{t(`standIn.${name}`)}</legend>
      <div className="two-fields">
        <SelectField
          sending={sending}
          name={`${name}.does`}
          label={t('whatItDoes')}
          options={MOODS[name].map((does) => [does, t(`does.${does}`)] as const)}
        />
        <TextField sending={sending} name={`${name}.only`} label={t(`only.${name}`)} hint={t('forAllWhereEmpty')} />
        <TextField sending={sending} name={`${name}.seconds`} label={t('howManySeconds')} inputMode="numeric" />
      </div>
    </fieldset>
  );
}
