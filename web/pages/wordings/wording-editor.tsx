import { Button } from 'react-bootstrap';
import type { z } from 'zod';
import { type RuleRow, type WordingRow, wordingSchema } from '../../../contract/wire/index.ts';
import { placeholdersOf } from '../../../core/messages/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { Controlled, Ends, Refused, SendForm, type Sending, TextField, useSending } from '../../forms/index.ts';
import { ProblemNote, useDraftKey, useNotice, useViewer, Writing } from '../../parts/index.ts';
import { useDropWording, useSaveWording } from '../../queries/index.ts';
import { t } from '../../words/wordings.ts';
import { UsualPlaces } from './usual-places.tsx';

/** A shared wording as it is written: its name, what it says, and where it is usual. */
export function WordingEditor({
  wording,
  users,
  onDone,
}: {
  wording: WordingRow;
  users: RuleRow[];
  onDone: () => void;
}) {
  const { source, directory, me } = useViewer();
  const notice = useNotice();
  const save = useSaveWording();
  const drop = useDropWording();
  const maySetUsual = me.role === 'steward';
  const sending = useSending({
    shape: wordingSchema,
    start: wording,
    draft: useDraftKey(`wording.${wording.id || 'new'}`),
    send: ({ usual = wording.usual, ...read }) => save.mutateAsync({ id: wording.id, ...read, usual }),
    onSent: ({ name }) => {
      notice({ words: t('isSaved', { name }) });
      onDone();
    },
    fieldOf: (path) => path.split('.')[0] ?? null,
  });
  const takeAway = () =>
    drop.mutate(wording.id, {
      onSuccess: () => {
        notice({ words: t('isGone', { name: wording.name }) });
        onDone();
      },
    });
  const used = users.flatMap((row) => (row.live ?? row.draft)?.scope.sources ?? []);
  const usual = sending.form.watch('usual') ?? [];
  const usually = usual.flatMap((one) => (one.source === null ? directory.sources.map(({ id }) => id) : [one.source]));
  const sources = [...new Set([...used, ...usually])].flatMap((id) => source(id) ?? []);
  const names = placeholdersOf(sources, new Map(directory.sources.map((one) => [one.id, one])));
  return (
    <SendForm sending={sending} className="wording-editor">
      <TextField sending={sending} name="name" label={t('name')} autoFocus={wording.id === ''} />
      <WordsField sending={sending} name="subject" label={t('subject')} isLine names={names} sources={sources} />
      <WordsField sending={sending} name="body" label={t('body')} names={names} sources={sources} />
      {maySetUsual && (
        <Controlled sending={sending} name="usual" id="wording-usual">
          {(value, onChange) => <UsualPlaces id="wording-usual" places={value ?? []} onChange={onChange} />}
        </Controlled>
      )}
      {users.length > 0 && <p className="small">{t('rulesSayThis', { users: users.length })}</p>}
      <Refused sending={sending} />
      {drop.error && <ProblemNote error={drop.error} />}
      <Ends
        sending={sending}
        words={users.length > 0 ? t('saveForRules', { users: users.length }) : t('save')}
        leave={t('leaveIt')}
        onLeave={onDone}
      >
        {wording.id && users.length === 0 && wording.usual.length === 0 && (
          <Button variant="quiet" onClick={takeAway}>
            {t('deleteIt')}
          </Button>
        )}
      </Ends>
    </SendForm>
  );
}

type WordingValues = z.input<typeof wordingSchema>;
interface WordsFieldProps {
  sending: Sending<WordingValues>;
  name: 'subject' | 'body';
  label: string;
  isLine?: boolean;
  names: string[];
  sources: Source[];
}

/** A subject or body with placeholders. */
const WordsField = ({ sending, name, label, isLine = false, names, sources }: WordsFieldProps) => (
  <div>
    <Controlled sending={sending} name={name} id={`wording-${name}`}>
      {(value, onChange) => (
        <Writing
          id={`wording-${name}`}
          label={label}
          isLine={isLine}
          isPlain={isLine}
          names={names}
          sources={sources}
          value={value ?? ''}
          onChange={onChange}
        />
      )}
    </Controlled>
  </div>
);
