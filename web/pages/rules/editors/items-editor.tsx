import { useQueries } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { Form } from 'react-bootstrap';
import { itemQueryOf, useItems } from '../../../queries/index.ts';

/** The titles of items by id, as they are found; what may not be read has none. */
export function useTitles(ids: readonly string[]): Record<string, string> {
  const found = useQueries({ queries: ids.slice(0, 50).map(itemQueryOf) });
  return Object.fromEntries(found.flatMap(({ data }) => (data ? [[data.item.id, data.item.title]] : [])));
}

/** Chooses single items of the sources, and whether what is linked with them counts. */
export function ItemsEditor({
  sources,
  chosen,
  isLinked,
  onChange,
}: {
  sources: string[];
  chosen: string[];
  isLinked: boolean;
  onChange: (items: string[], isLinked: boolean) => void;
}) {
  const [text, setText] = useState('');
  const found = useItems(sources[0] ?? '', { text: useDeferredValue(text) });
  const titles = useTitles(chosen);
  const others = (found.data?.items ?? []).filter((item) => !chosen.includes(item.id)).slice(0, 20);
  return (
    <>
      {chosen.length > 0 && (
        <fieldset className="choices" aria-label="Chosen items">
          {chosen.map((id) => (
            <Form.Check
              key={id}
              id={`item-${id}`}
              label={titles[id] ?? id}
              checked
              onChange={() =>
                onChange(
                  chosen.filter((one) => one !== id),
                  isLinked,
                )
              }
            />
          ))}
        </fieldset>
      )}
      <Form.Control
        type="search"
        placeholder="Find an item"
        aria-label="Find an item"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <div className="choices">
        {others.map((item) => (
          <button
            key={item.id}
            type="button"
            className="dropdown-item choice"
            onClick={() => onChange([...chosen, item.id], isLinked)}
          >
            <span className="cut">{item.title}</span>
          </button>
        ))}
      </div>
      <Form.Check
        id="linked"
        label="and what is linked with them"
        checked={isLinked}
        disabled={chosen.length === 0}
        onChange={(event) => onChange(chosen, event.target.checked)}
      />
    </>
  );
}
