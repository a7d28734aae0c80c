import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { z } from 'zod';
import { type DirectoryPage, type RuleRow, wordingSchema } from '../../../contract/wire/index.ts';
import { marked, placeholdersOf, rulePath } from '../../../core/messages/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { Controlled, Refused, SendForm, type Sending, TextField, useSending } from '../../forms/index.ts';
import {
  Empty,
  OwnWords,
  ProblemNote,
  templateInWords,
  Writing,
  useNotice,
  useViewer,
  useDraftKey,
  keepersOf,
} from '../../parts/index.ts';
import { useDropWording, useRules, useSaveWording } from '../../queries/index.ts';
import { t } from '../../words/wordings.ts';

type Wording = DirectoryPage['wordings'][number];

/** Texts that several rules share, each with the rules that use it. */
export function WordingsPage() {
  const viewer = useViewer();
  const { directory, me } = viewer;
  const rules = useRules();
  const [open, setOpen] = useState<string | null>(null);
  const mayWrite = me.role !== 'member';
  const inWords = (template: string) => templateInWords(template, directory.sources, directory.sources);
  const usersOf = (id: string) =>
    (rules.data ?? []).filter((row) => row.state !== 'ended' && (row.live ?? row.draft)?.message.wording === id);
  return (
    <main className="page">
      <p className="crumbs">
        <Link to="/rules">{t('rules')}</Link>
      </p>
      <div className="page-head">
        <h1>{t('wordings')}</h1>
        <span className="quiet">{t('aSubjectAndBodyThat')}</span>
        {!mayWrite && (
          <p className="small quiet">
            {t('writtenBy', {
              keepers: keepersOf(
                directory.sources.map((one) => one.id),
                viewer,
              ),
            })}
          </p>
        )}
        {mayWrite && (
          <div className="acts">
            <Button variant="outline-primary" onClick={() => setOpen('new')}>
              {t('newWording')}
            </Button>
          </div>
        )}
      </div>
      {open === 'new' && (
        <Editor
          wording={{ id: '', name: '', subject: '{{ item.title }}', body: '' }}
          users={[]}
          onDone={() => setOpen(null)}
        />
      )}
      {directory.wordings.length === 0 && open !== 'new' && (
        <Empty title={t('noSharedWordingYet')}>
          <p>{t('ojoSaysWhatChangedIn')}</p>
        </Empty>
      )}
      <ul className="plain-list wordings">
        {directory.wordings.map((wording) => (
          <li key={wording.id}>
            {open === wording.id ? (
              <Editor wording={wording} users={usersOf(wording.id)} onDone={() => setOpen(null)} />
            ) : (
              <>
                <div className="page-head">
                  <h2>{wording.name}</h2>
                  {mayWrite && (
                    <div className="acts">
                      <Button variant="quiet" onClick={() => setOpen(wording.id)}>
                        {t('edit')}
                      </Button>
                    </div>
                  )}
                </div>
                <p>
                  <strong>{wording.subject ? inWords(wording.subject) : t('theUsualSubject')}</strong>
                </p>
                <div className="wording-body own-words">
                  {wording.body ? <OwnWords text={marked(inWords(wording.body))} /> : <p>{t('theUsualBody')}</p>}
                </div>
                <p className="small quiet">
                  {usersOf(wording.id).length === 0 ? (
                    t('noRuleUsesIt')
                  ) : (
                    <>
                      {t('usedBy')}{' '}
                      {usersOf(wording.id).map((row, at) => (
                        <span key={row.id}>
                          {at > 0 && ', '}
                          <Link to={rulePath(row.id)}>{(row.live ?? row.draft)?.name}</Link>
                        </span>
                      ))}
                    </>
                  )}
                </p>
              </>
            )}
          </li>
        ))}
      </ul>
    </main>
  );
}

function Editor({ wording, users, onDone }: { wording: Wording; users: RuleRow[]; onDone: () => void }) {
  const { source, directory } = useViewer();
  const notice = useNotice();
  const save = useSaveWording();
  const drop = useDropWording();
  const sending = useSending({
    shape: wordingSchema,
    start: wording,
    draft: useDraftKey(`wording.${wording.id || 'new'}`),
    send: ({ name, subject, body }) => save.mutateAsync({ id: wording.id, name, subject, body }),
    onSent: ({ name }) => {
      notice({ words: t('isSaved', { name }) });
      onDone();
    },
  });
  const takeAway = () =>
    drop.mutate(wording.id, {
      onSuccess: () => {
        notice({ words: t('isGone', { name: wording.name }) });
        onDone();
      },
    });
  const sources = [...new Set(users.flatMap((row) => (row.live ?? row.draft)?.scope.sources ?? []))].flatMap(
    (id) => source(id) ?? [],
  );
  const names = placeholdersOf(sources, new Map(directory.sources.map((one) => [one.id, one])));
  return (
    <SendForm sending={sending} className="wording-editor">
      <TextField sending={sending} name="name" label={t('name')} autoFocus={wording.id === ''} />
      <WordsField sending={sending} name="subject" label={t('subject')} isLine names={names} sources={sources} />
      <WordsField sending={sending} name="body" label={t('body')} names={names} sources={sources} />
      {users.length > 0 && <p className="small">{t('rulesSayThis', { users: users.length })}</p>}
      <Refused sending={sending} />
      {drop.error && <ProblemNote error={drop.error} />}
      <div className="acts">
        <Button type="submit" disabled={sending.isPending}>
          {users.length > 0 ? t('saveForRules', { users: users.length }) : t('save')}
        </Button>
        <Button
          variant="quiet"
          onClick={() => {
            sending.giveUp();
            onDone();
          }}
        >
          {t('leaveIt')}
        </Button>
        {wording.id && users.length === 0 && (
          <Button variant="quiet" onClick={takeAway}>
            {t('deleteIt')}
          </Button>
        )}
      </div>
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
