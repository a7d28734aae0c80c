import { useQueries } from '@tanstack/react-query';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { itemQueryOf, useItems } from '../queries/index.ts';
import { Combobox, type Found } from './inputs/combobox.tsx';
import { useTyped } from './settled.ts';
import { t } from '../words/parts.ts';

/** So many items are offered at a time. */
const OFFERED = 20;
/** The titles of so many chosen items are asked for. */
const NAMED = 50;

/** The titles of items by id, as they are found; what may not be read has none. */
export function useTitles(ids: readonly string[]): Record<string, string> {
  const found = useQueries({ queries: ids.slice(0, NAMED).map(itemQueryOf) });
  return Object.fromEntries(found.flatMap(({ data }) => (data ? [[data.item.id, data.item.title]] : [])));
}

/** Finds an item of a source by its title, among those that one may read. */
export function ItemFinder({
  source,
  but,
  label,
  id,
  isQuiet = false,
  onAdd,
}: {
  source: string;
  but: readonly string[];
  label: string;
  id?: string;
  /** Offers nothing before something is typed, as in a form among other fields. */
  isQuiet?: boolean;
  onAdd: (item: string) => void;
}) {
  const [text, setText] = useState('');
  const found = useItems(source, { text: useTyped(text) });
  const isSilent = isQuiet && text === '';
  const offers = (isSilent ? [] : (found.data?.items ?? []))
    .filter((item) => !but.includes(item.id))
    .slice(0, OFFERED)
    .map((item): Found<string> => ({ value: item.id, name: item.title, kind: '' }));
  return (
    <Combobox
      {...(id ? { id } : {})}
      offers={offers}
      label={label}
      isEntered={!isQuiet}
      nothing={isSilent ? '' : nothingWords(found.isFetching)}
      onSearch={setText}
      onAdd={onAdd}
    />
  );
}

const nothingWords = (isLooking: boolean): string => (isLooking ? t('looking') : t('nothingByThatNameThat'));

/** Items that have been chosen, each with a way to take it out again. */
export function ChosenItems({
  ids,
  label,
  onRemove,
}: {
  ids: readonly string[];
  label: string;
  onRemove: (id: string) => void;
}) {
  const titles = useTitles(ids);
  if (ids.length === 0) return null;
  return (
    <fieldset className="choices" aria-label={label}>
      {ids.map((id) => (
        <Form.Check key={id} id={`item-${id}`} label={titles[id] ?? id} checked onChange={() => onRemove(id)} />
      ))}
    </fieldset>
  );
}
