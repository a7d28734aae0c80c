import { Button, Form } from 'react-bootstrap';
import { stateTestSchema } from '../../../contract/documents/index.ts';
import { type StateTest, isOpen, wordsTest } from '../../../core/rules/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { useNotice, useViewer, type Viewer } from '../../parts/index.ts';
import { nameViewSchema, type View } from '../../../contract/wire/index.ts';
import { Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { type ItemsAsked, useDropView, useNameView, useViews } from '../../queries/index.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { ConditionTree } from '../rules/editors/condition-tree.tsx';
import { t } from '../../words/sources.ts';

const OPEN: StateTest = { all: [] };

/** The state test of an address; everything where there is none, or none that can be read. */
export function readWhere(text: string | undefined): StateTest {
  if (!text) return OPEN;
  try {
    return stateTestSchema.parse(JSON.parse(text));
  } catch {
    return OPEN;
  }
}

/** What is asked of a source as one state: the words that find as well as the tests; `null` where all of it is asked for. */
export function stateAsked({ text, where }: ItemsAsked, source: Source, people: Viewer['directory']['people']) {
  const tests = readWhere(where);
  if (!text?.trim()) return isOpen(tests) ? null : tests;
  const words = wordsTest(text, source, people);
  return isOpen(tests) ? words : { all: [tests, words] };
}

/** Narrows what is listed, by words and by the state items are in; a view that is wanted again gets a name. */
export function FilterBar({
  source,
  asked,
  onAsk,
}: {
  source: Source;
  asked: ItemsAsked;
  onAsk: (asked: ItemsAsked) => void;
}) {
  const where = readWhere(asked.where);
  const put = (next: StateTest) => {
    onAsk({ ...asked, where: isOpen(next) ? undefined : JSON.stringify(next) });
  };
  return (
    <div className="filters filter-bar">
      <Form.Control
        type="search"
        placeholder={t('narrowByAnyWord')}
        aria-label={t('narrowByAnyWord2', { name: source.name })}
        value={asked.text ?? ''}
        onChange={(event) => onAsk({ ...asked, text: event.target.value || undefined })}
      />
      <div className="say">
        <ConditionTree
          node={where}
          source={source}
          className=""
          isFixed={false}
          isOfState
          onChange={(next) => put(next as StateTest)}
          addWords={(joiner) => (joiner ? `+ ${joiner}` : t('onlyWhere'))}
        />
      </div>
      <Views source={source} asked={asked} onAsk={onAsk} />
    </div>
  );
}

function Views({ source, asked, onAsk }: { source: Source; asked: ItemsAsked; onAsk: (asked: ItemsAsked) => void }) {
  const { me } = useViewer();
  const views = useViews(source.id);
  const nameView = useNameView(source.id);
  const drop = useDropView(source.id);
  const notice = useNotice();
  const list = views.data ?? [];
  const isSame = (view: View) => view.asked.where === asked.where && (view.asked.text ?? '') === (asked.text ?? '');
  const isNarrowed = Boolean(asked.where || asked.text);
  const shown = list.find(isSame);
  return (
    <div className="views">
      {list.map((view) => (
        <button
          key={view.id}
          type="button"
          className={`btn btn-link${isSame(view) ? ' is-shown' : ''}`}
          aria-pressed={isSame(view)}
          onClick={() => onAsk(view.asked)}
        >
          {view.name}
        </button>
      ))}
      {isNarrowed && !shown && (
        <Chip
          label={t('aNameForThisView')}
          className="is-adding"
          isPlain
          editor={(close) => <NameView source={source} asked={asked} onDone={close} />}
        >
          {t('nameThisView')}
        </Chip>
      )}
      {isNarrowed && (
        <Button variant="link" onClick={() => onAsk({})}>
          {t('showAll')}
        </Button>
      )}
      {shown && (shown.owner === me.id || me.role === 'steward') && (
        <Button
          variant="link"
          onClick={() =>
            drop.mutate(shown.id, {
              onSuccess: () =>
                notice({
                  words: t('theViewIsGoneThe', { name: shown.name }),
                  undo: () => nameView.mutate({ name: shown.name, asked: shown.asked }),
                }),
            })
          }
        >
          {t('forget', { name: shown.name })}
        </Button>
      )}
    </div>
  );
}

/** Keeps what is asked of a source under a name. */
function NameView({ source, asked, onDone }: { source: Source; asked: ItemsAsked; onDone: () => void }) {
  const nameView = useNameView(source.id);
  const { text, where, sort, down } = asked;
  const kept = Object.fromEntries(Object.entries({ text, where, sort, down }).filter(([, value]) => value));
  const sending = useSending({
    shape: nameViewSchema.pick({ name: true }),
    start: { name: '' },
    send: ({ name }) => nameView.mutateAsync({ name, asked: kept }),
    onSent: onDone,
  });
  return (
    <SendForm sending={sending}>
      <TextField sending={sending} name="name" label={t('itsName')} isBare placeholder={t('agreedDueThisMonth')} />
      <Refused sending={sending} />
      <div className="acts">
        <Button size="sm" type="submit" disabled={sending.isPending}>
          {t('keepIt')}
        </Button>
      </div>
    </SendForm>
  );
}
