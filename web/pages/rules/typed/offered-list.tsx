import { type KeyboardEvent, useLayoutEffect, useRef, useState } from 'react';
import type { TypedRule } from '../../../../contract/wire/index.ts';
import { t } from '../../../words/typed.ts';

/** Something that could stand at the cursor. */
export type Offered = TypedRule['offered'][number];

/** The list of what could stand at the cursor: which is marked, and where the list stands. */
export function useOffered(all: readonly Offered[], isFresh: boolean) {
  const [isWanted, setWanted] = useState(false);
  const [marked, setMarked] = useState(0);
  const place = useRef<HTMLSpanElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const offered = all.filter(({ kind }) => kind !== 'sample');
  const sample = all.find(({ kind }) => kind === 'sample');
  const isOpen = isWanted && (offered.length > 0 || sample !== undefined);
  const at = Math.min(marked, Math.max(0, offered.length - 1));
  // It stands under the cursor, and never out of the field.
  useLayoutEffect(() => {
    const [mark, list] = [place.current, box.current];
    if (!mark || !list) return;
    const most = (list.parentElement?.clientWidth ?? 0) - list.offsetWidth;
    list.style.left = `${Math.max(0, Math.min(mark.offsetLeft, most))}px`;
    list.style.top = `${mark.offsetTop + mark.offsetHeight + 8}px`;
  });
  const close = () => setWanted(false);
  const open = () => {
    setWanted(true);
    setMarked(0);
  };
  const pressClosed = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown' && event.altKey) open();
    // What is still being asked for stays closed once it comes.
    if (event.key === 'Escape') close();
  };
  const press = (event: KeyboardEvent, take: (one: Offered) => void) => {
    if (event.key === 'Enter') event.preventDefault();
    if (!isOpen) {
      pressClosed(event);
      return;
    }
    const chosen = offered[at];
    const isTaking = (event.key === 'Tab' && !event.shiftKey) || event.key === 'Enter';
    if (event.key === 'Escape') close();
    else if (event.key === 'ArrowDown') setMarked((at + 1) % offered.length);
    else if (event.key === 'ArrowUp') setMarked((at + offered.length - 1) % offered.length);
    else if (isTaking && chosen && isFresh) take(chosen);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return { offered, sample, isOpen, at, place, box, open, close, press };
}

const kindWords = ({ kind, of }: Offered): string => {
  if (of !== null) return of;
  return kind === 'word' || kind === 'sample' ? '' : t(`kind.${kind as 'person'}`);
};

interface OfferedListProps {
  /** Of the field it belongs to: the list's own is made of it. */
  id: string;
  list: ReturnType<typeof useOffered>;
  onTake: (one: Offered) => void;
}

/** What could stand at the cursor, each with what it is. */
export function OfferedList({ id, list, onTake }: OfferedListProps) {
  return (
    <div id={`${id}-list`} className="typed-list" role="listbox" aria-label={t('offered')} ref={list.box}>
      {list.offered.map((one, at) => (
        <div
          key={`${one.text} ${one.of}`}
          id={`${id}-${at}`}
          role="option"
          tabIndex={-1}
          aria-selected={at === list.at}
          // Pressed, not left: the field keeps the focus.
          onMouseDown={(event) => {
            event.preventDefault();
            onTake(one);
          }}
        >
          <span className="cut">{one.text}</span>
          <span className="quiet small cut">{kindWords(one)}</span>
        </div>
      ))}
      {list.sample && <div role="presentation">{t('suchAs', { sample: list.sample.text })}</div>}
    </div>
  );
}
