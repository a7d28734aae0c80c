import { useCombobox } from 'downshift';
import { type ChangeEvent, type KeyboardEvent, type MouseEvent, useEffect, useMemo, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { itemPath, rulePath, sourcePath } from '../../core/messages/index.ts';
import { closeUp, useKeys, useTyped, useViewer, type Viewer } from '../parts/index.ts';
import { useFind } from '../queries/index.ts';
import type { AnswerOf } from '../../contract/routes.ts';
import { t } from '../words/app.ts';
import { pagesFound, pagesOfSource } from './pages-found.ts';
import type { Hit } from './hit.ts';
import { useSentenceHits } from './sentence-hits.ts';

type Found = AnswerOf<'find.text'>;

/** What begins with the letters typed comes before what holds them somewhere. */
function whatBeginsSo(text: string, hits: Hit[]): Hit[] {
  const begins = ({ name }: Hit) => name.toLowerCase().startsWith(text.trim().toLowerCase());
  return [...hits.filter(begins), ...hits.filter((hit) => !begins(hit))];
}

/** So many people, and so many pages, are found at most. */
const MOST = 5;
/** Those whose name holds the letters typed, accents or not. */
function called<T extends { name: string }>(text: string, among: readonly T[]): T[] {
  const bare = (word: string) => word.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
  return among.filter(({ name }) => bare(name).includes(bare(text.trim()))).slice(0, MOST);
}

/** So many of what is called so stand behind how a sentence goes on. */
const FEW = 3;
const LONG_NAME = 60;

/** What is called so, and then what says it. */
function foundBy(text: string, data: Found, { source, directory }: Viewer): Hit[] {
  const hits = [
    ...data.items.map((item) => ({
      path: itemPath(item.id),
      name: item.title,
      kind: source(item.source)?.name ?? '',
    })),
    ...data.rules.map((rule) => ({ path: rulePath(rule.id), name: rule.name, kind: t('rule') })),
    ...data.sources.map((one) => ({ path: sourcePath(one.id), name: one.name, kind: t('source') })),
    ...called(text, directory.people).map((one) => ({
      path: `/people/${encodeURIComponent(one.id)}`,
      name: one.name,
      kind: t('person'),
    })),
    ...called(text, [...pagesFound(), ...data.sources.flatMap(pagesOfSource)]).map((page) => ({
      ...page,
      kind: t('page'),
    })),
  ];
  // What says it and is not called so comes last.
  const saying = data.saying.map((item) => ({
    path: itemPath(item.id),
    name: item.title,
    kind: t('saysIt', { source: source(item.source)?.name ?? '' }),
  }));
  return [...whatBeginsSo(text, hits), ...saying];
}

/** What is found by the letters typed; `isFresh` once it is what these letters find, not those before. */
function useHits(text: string): { hits: Hit[]; isFresh: boolean; isOpen: boolean; isSentence?: boolean } {
  const viewer = useViewer();
  const sentence = useSentenceHits(text);
  // Nothing is called so long.
  const typed = useTyped(sentence && text.length > LONG_NAME ? '' : text);
  const { data, isPlaceholderData } = useFind(typed);
  if (!sentence && (!data || text.trim() === '')) return { hits: [], isFresh: false, isOpen: false };
  const found = data ? foundBy(text, data, viewer) : [];
  // What was found for the letters before may stand there still: nobody is sent to it.
  const isFresh = !isPlaceholderData && typed === text;
  if (!sentence) return { hits: found, isFresh, isOpen: true };
  // Something may be called as a sentence begins.
  const alike = isFresh ? found.slice(0, FEW) : [];
  return { ...sentence, hits: [...sentence.hits, ...alike], isOpen: true, isSentence: true };
}

/** Finds items by name and by what they say, rules, sources, people and pages by name; `/` goes there from anywhere. */
export function FindBox() {
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [isWaited, setWaited] = useState(false);
  const { hits, isFresh, isOpen, isSentence } = useHits(text);
  useKeys(useMemo(() => ({ f: () => input.current?.focus(), '/': () => input.current?.focus() }), []));
  const leave = () => {
    setText('');
    setWaited(false);
    input.current?.blur();
  };
  const fill = (next: string) => {
    setText(next);
    setWaited(false);
  };
  const go = (hit: Hit | undefined) => {
    if (!hit) return;
    if (hit.fill !== undefined) return fill(hit.fill);
    leave();
    void navigate(hit.path);
  };
  const { getInputProps, getMenuProps, getItemProps, highlightedIndex } = useCombobox<Hit>({
    items: hits,
    isOpen,
    inputValue: text,
    selectedItem: null,
    defaultHighlightedIndex: 0,
    itemToString: (hit) => hit?.name ?? '',
  });
  const marked = Math.max(0, highlightedIndex);
  useEffect(() => {
    if (isWaited && isFresh) go(hits[marked]);
  });
  const press = (event: KeyboardEvent & { nativeEvent: { preventDownshiftDefault?: boolean } }) => {
    const isTaking = event.key === 'Tab' && !event.shiftKey && isFresh && hits[marked]?.fill !== undefined;
    if (event.key !== 'Escape' && event.key !== 'Enter' && !isTaking) return;
    event.nativeEvent.preventDownshiftDefault = true;
    if (isTaking) event.preventDefault();
    if (event.key === 'Escape') leave();
    else if (isFresh) go(hits[marked]);
    else setWaited(text.trim() !== '');
  };
  return (
    <search className={isSentence ? 'find is-sentence' : 'find'}>
      <Form.Control
        type="search"
        placeholder={t('findAnything2')}
        {...getInputProps({
          ref: input,
          'aria-label': t('findAnything2'),
          onChange: ({ currentTarget }: ChangeEvent<HTMLInputElement>) =>
            fill(isSentence ? closeUp(currentTarget.value) : currentTarget.value),
          onKeyDown: press,
          onBlur: leave,
        })}
      />
      {text === '' && <kbd>/</kbd>}
      <div className={isOpen ? 'found' : ''} {...getMenuProps({ 'aria-label': t('found') })}>
        {isOpen && hits.length === 0 && <div role="presentation">{t('nothingByThatNameThat')}</div>}
        {hits.map((hit, index) => (
          <div
            key={`${hit.path} ${hit.name}`}
            {...getItemProps({
              item: hit,
              index,
              // Pressed, not left: the box keeps its words until the hit is reached.
              onMouseDown: (event: MouseEvent) => event.preventDefault(),
              onClick: () => go(hit),
            })}
          >
            <span className="cut">{hit.name}</span>
            <span className="quiet small">{hit.kind}</span>
          </div>
        ))}
      </div>
    </search>
  );
}
