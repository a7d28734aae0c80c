import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { TrailRow } from '../../contract/wire/index.ts';
import { type Entry, itemPath, kindWords, type ShownField, type Words } from '../../core/messages/index.ts';
import { fieldOf, formatValue, type Source } from '../../core/values/index.ts';
import { useViewer } from './viewer.tsx';
import { phrases } from '../words/index.ts';
import { t } from '../words/parts.ts';

/** A change of fields: the old value struck, the new one under the highlighter. */
export function ChangeMark({
  fields,
  isSeen = false,
}: {
  fields: Pick<ShownField, 'id' | 'label' | 'before' | 'after'>[];
  isSeen?: boolean;
}) {
  return (
    <span className={`change${isSeen ? ' is-seen' : ''}`}>
      {fields.map((field, at) => (
        <span key={field.id}>
          {at > 0 && ', '}
          {field.label} {field.before ? <s>{field.before}</s> : <span className="from">{t('empty')}</span>}{' '}
          <mark>{field.after || t('empty')}</mark>
        </span>
      ))}
    </span>
  );
}

/** How an item stands by now, where it changed again since what is told of it. */
export const NowStands = ({ entry: { now = [] } }: { entry: Pick<Entry, 'now'> }) =>
  now.length === 0 ? null : (
    <div>
      {now.map(({ label, value }) => (
        <span key={label}>{t.rich('nowStands', { label, value: value || t('empty') })} </span>
      ))}
    </div>
  );

/** Kinds whose name says all: their fields would only repeat it. */
const SAID_BY_KIND = new Set<string>(['created', 'deleted', 'restored', 'checkedOut', 'checkedIn']);

/** One thing that happened, in words and marks, without who did it. `most` keeps lists calm: what is beyond is counted. */
export function WhatHappened({
  row,
  source,
  names,
  isSeen,
  most = 99,
}: {
  row: TrailRow;
  source: Source;
  names?: Record<string, string>;
  isSeen?: boolean;
  most?: number;
}) {
  const { me, names: namesFor, folder } = useViewer();
  const shown = (SAID_BY_KIND.has(row.kind) ? [] : row.fields).map(({ field: id, before, after }) => {
    const field = fieldOf(source, id);
    const say = (value: typeof before) => (field ? cutLong(formatValue(field, value, me, namesFor(names))) : '');
    return { id, label: field?.name ?? id, before: say(before), after: say(after) };
  });
  const moved = row.kind === 'moved' && row.folder ? folder(row.folder)?.name : null;
  return (
    <>
      {shown.length > 0 && <ChangeMark fields={shown.slice(0, most)} isSeen={isSeen} />}
      {shown.length > most && <span className="quiet">{t('andMore', { shown: shown.length - most })}</span>}
      {shown.length === 0 && (
        <span className={`change${isSeen ? ' is-seen' : ''}`}>
          <mark>{moved ? t('movedTo', { moved }) : sentence(kindWords(row.kind, phrases()))}</mark>
        </span>
      )}
      {row.text && <span> “{row.text}”</span>}
    </>
  );
}

const sentence = (words: string) =>
  words.replace(/^(was|has|is) (an? )?/, '').replace(/^./, (first) => first.toUpperCase());
const cutLong = (text: string) => (text.length > 90 ? `${text.slice(0, 88).trimEnd()}…` : text);

export function ItemLink({ id, children }: { id: string; children: ReactNode }) {
  return <Link to={itemPath(id)}>{children}</Link>;
}

/** Words of which some stand out. */
export function Said({ words }: { words: Words }) {
  // Parts of a sentence have no identity but their place.
  return (
    <>
      {words.map((part, at) =>
        typeof part === 'string' ? part : <strong key={`${at} ${part.strong}`}>{part.strong}</strong>,
      )}
    </>
  );
}

/** Why somebody heard, in whole sentences. */
export function Why({ sentences }: { sentences: Words[] }) {
  return (
    <blockquote className="why">
      {sentences.map((words, at) => (
        <div key={`${at} ${words.length}`}>
          <Said words={words} />
        </div>
      ))}
    </blockquote>
  );
}
