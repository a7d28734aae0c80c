import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { ItemActsDone } from '../../../contract/wire/index.ts';
import { problemWords } from '../../../contract/words/refusals.ts';
import { type ActFault, type ActName, type Actor, NATURE, unfit } from '../../../core/documents/index.ts';
import { membersOf, type Source } from '../../../core/values/index.ts';
import { Combobox, ProblemNote, useNotice, useViewer } from '../../parts/index.ts';
import { type ItemActAsked, useItemActs } from '../../queries/index.ts';
import { locale } from '../../words/index.ts';
import { t } from '../../words/documents.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { FolderChip } from './folder-chip.tsx';
import type { Standing } from './standing.ts';

interface ActsProps {
  source: Source;
  /** What is acted on: one item on its own sheet, or several that are chosen. */
  items: readonly Standing[];
  onDone?: () => void;
}

/** What can be done with documents beside editing their fields; of several as one batch. What does not go with any of them is not offered. */
export function DocumentActs({ source, items, onDone }: ActsProps) {
  const { me, directory } = useViewer();
  const acts = useActs(source, items, onDone);
  const by = { id: me.id, isKeeper: directory.coordinates.includes(source.id) };
  const goes = (name: ActName) => items.some((item) => unfit(name, item, source, by) === null);
  const shared = [...new Set(items.flatMap((item) => membersOf(item.fields[NATURE.sharedWith])))];
  const plain = (name: 'checkOut' | 'checkIn', words: string) =>
    goes(name) && (
      <Button variant="quiet" disabled={acts.isPending} onClick={() => acts.run({ act: name })}>
        {words}
      </Button>
    );
  return (
    <>
      <div className="acts document-acts">
        {goes('checkOut') && items.some(isFree) && plain('checkOut', t('checkOut'))}
        {items.some((item) => !isFree(item)) && plain('checkIn', t('checkIn'))}
        {(['submit', 'approve', 'reject'] as const).map(
          (name) => goes(name) && <WithWord key={name} name={name} onAct={acts.run} />,
        )}
        {items.length === 1 && items[0] && goes('rename') && (
          <Rename name={String(items[0].fields[source.titleField] ?? '')} onAct={acts.run} />
        )}
        {goes('move') && <Move source={source} items={items} onAct={acts.run} />}
        {goes('share') && <Share shared={shared} onAct={acts.run} />}
      </div>
      {items.length === 1 && items[0] && <WhoMay item={items[0]} source={source} by={by} />}
      {acts.error !== null && <ProblemNote error={acts.error} />}
      <NotDone results={acts.refused} items={items} />
    </>
  );
}

/** By whom can be done what this reader cannot do. */
function WhoMay({ item, source, by }: { item: Standing; source: Source; by: Actor }) {
  const { person } = useViewer();
  const against = (['submit', 'approve'] as const)
    .map((name) => unfit(name, item, source, by))
    .find((fault) => fault !== null && TELLS_WHO.includes(fault.code));
  if (!against) return null;
  const named = { ...against.params, person: person(String(against.params.person ?? '')) };
  const because = { code: against.code, params: named };
  return (
    <p className="small quiet mt-1">{problemWords({ code: 'badRequest', title: '', because }, locale()).detail}</p>
  );
}

/** Reasons that say whom to ask. */
const TELLS_WHO: readonly ActFault[] = ['heldBy', 'approverAlone', 'keeperAlone'];

const isFree = ({ fields }: Standing): boolean => !fields[NATURE.holder];

/** Does it, says what became of it, and keeps what was refused. */
function useActs(source: Source, items: readonly Standing[], onDone?: () => void) {
  const send = useItemActs(source.id);
  const notice = useNotice();
  const [refused, setRefused] = useState<ItemActsDone['results']>([]);
  const run = (act: ItemActAsked) =>
    send.mutate(
      { ids: items.map(({ id }) => id), act },
      {
        onSuccess: ({ results }) => {
          const against = results.filter(({ outcome }) => outcome === 'refused');
          setRefused(against);
          const done = results.filter(({ outcome }) => outcome === 'done').length;
          if (done > 0) notice({ words: t(`done.${act.act}`, { done }) });
          else if (against.length === 0) notice({ words: t('asItWas') });
          if (against.length === 0) onDone?.();
        },
      },
    );
  return { run, refused, isPending: send.isPending, error: send.error };
}

/** What was not done, item by item, with why. */
function NotDone({ results, items }: { results: ItemActsDone['results']; items: readonly Standing[] }) {
  if (results.length === 0) return null;
  const titleOf = (id: string) => items.find((item) => item.id === id)?.title ?? id;
  return (
    <div className="problem" role="alert">
      <strong>{t('notDone')}</strong>
      <ul className="plain-list">
        {results.map(({ id, why }) => (
          <li key={id}>
            {items.length > 1 && <strong>{titleOf(id)}: </strong>}
            {why?.detail ?? why?.title}
          </li>
        ))}
      </ul>
    </div>
  );
}

type OnAct = (act: ItemActAsked) => void;

/** Submitting, approving and rejecting, with a word for those who hear of it. */
function WithWord({ name, onAct }: { name: 'submit' | 'approve' | 'reject'; onAct: OnAct }) {
  const [word, setWord] = useState('');
  return (
    <Chip
      label={t(name)}
      className="is-quiet"
      act={{ words: t(name), run: () => onAct({ act: name, word }) }}
      editor={() => (
        <Form.Control
          as="textarea"
          rows={3}
          aria-label={t('aWordOfYours')}
          placeholder={t('aWordOfYours')}
          value={word}
          onChange={(event) => setWord(event.target.value)}
        />
      )}
    >
      {t(name)}
    </Chip>
  );
}

function Rename({ name, onAct }: { name: string; onAct: OnAct }) {
  const [next, setNext] = useState(name);
  return (
    <Chip
      label={t('rename')}
      className="is-quiet"
      act={{ words: t('rename'), run: () => onAct({ act: 'rename', name: next }) }}
      editor={() => (
        <Form.Control aria-label={t('newName')} value={next} onChange={(event) => setNext(event.target.value)} />
      )}
    >
      {t('rename')}
    </Chip>
  );
}

function Move({ source, items, onAct }: { source: Source; items: readonly Standing[]; onAct: OnAct }) {
  const { directory } = useViewer();
  const places = directory.folders.filter((folder) => folder.source === source.id);
  const elsewhere = places.filter((folder) => items.some((item) => item.folder !== folder.id));
  return (
    <FolderChip
      words={t('move')}
      className="is-quiet"
      question={t('toWhichFolder')}
      offered={elsewhere}
      onChoose={(folder) => onAct({ act: 'move', folder })}
    />
  );
}

/** Gives somebody to read what is in a folder that is closed to them, and takes it back. */
function Share({ shared, onAct }: { shared: readonly string[]; onAct: OnAct }) {
  const { directory, person } = useViewer();
  const offers = directory.people
    .filter((one) => one.isActive && !shared.includes(one.id))
    .map((one) => ({ value: one.id, name: one.name, kind: one.title }));
  return (
    <Chip
      label={t('share')}
      className="is-quiet"
      isPlain
      editor={(close) => (
        <>
          <Combobox
            label={t('withWhom')}
            offers={offers}
            onAdd={(one) => {
              onAct({ act: 'share', person: one });
              close();
            }}
          />
          {shared.map((one) => (
            <Button
              key={one}
              variant="link"
              size="sm"
              onClick={() => {
                onAct({ act: 'unshare', person: one });
                close();
              }}
            >
              {t('takeBackFrom', { person: person(one) })}
            </Button>
          ))}
        </>
      )}
    >
      {t('share')}
    </Chip>
  );
}
