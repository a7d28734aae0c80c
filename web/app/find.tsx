import { useEffect, useId, useMemo, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { itemPath, rulePath, sourcePath } from '../../core/messages/index.ts';
import { useKeys, useTyped, useViewer } from '../parts/index.ts';
import { useFind } from '../queries/index.ts';
import { t } from '../words/app.ts';

interface Hit {
  path: string;
  name: string;
  kind: string;
}

/** What begins with the letters typed comes before what holds them somewhere. */
function whatBeginsSo(text: string, hits: Hit[]): Hit[] {
  const begins = ({ name }: Hit) => name.toLowerCase().startsWith(text.trim().toLowerCase());
  return [...hits.filter(begins), ...hits.filter((hit) => !begins(hit))];
}

/** Finds items, rules and sources by name; `/` goes there from anywhere. */
export function FindBox() {
  const { source } = useViewer();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const list = useId();
  const typed = useTyped(text);
  const found = useFind(typed);
  useKeys(useMemo(() => ({ '/': () => input.current?.focus() }), []));
  // What was found for the letters before may stand there still: nobody is sent to it.
  const isFresh = found.data !== undefined && !found.isPlaceholderData && typed === text;
  const [isWaited, setWaited] = useState(false);
  const hits: Hit[] =
    !found.data || text.trim() === ''
      ? []
      : whatBeginsSo(text, [
          ...found.data.items.map((item) => ({
            path: itemPath(item.id),
            name: item.title,
            kind: source(item.source)?.name ?? '',
          })),
          ...found.data.rules.map((rule) => ({ path: rulePath(rule.id), name: rule.name, kind: 'rule' })),
          ...found.data.sources.map((one) => ({ path: sourcePath(one.id), name: one.name, kind: 'source' })),
        ]);
  const go = (hit: Hit | undefined) => {
    if (!hit) return;
    setText('');
    input.current?.blur();
    void navigate(hit.path);
  };
  const press = (event: React.KeyboardEvent) => {
    if (event.key === 'Escape') {
      setText('');
      input.current?.blur();
    } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      setAt((now) => Math.max(0, Math.min(hits.length - 1, now + (event.key === 'ArrowDown' ? 1 : -1))));
    } else if (event.key === 'Enter') {
      if (isFresh) go(hits[at]);
      else setWaited(text.trim() !== '');
    }
  };
  useEffect(() => {
    if (!isWaited || !isFresh) return;
    setWaited(false);
    go(hits[at]);
  });
  const isOpen = text.trim() !== '' && found.data !== undefined;
  return (
    <search className="find">
      <Form.Control
        ref={input}
        type="search"
        placeholder={t('findAnything2')}
        aria-label={t('findAnything2')}
        role="combobox"
        aria-expanded={isOpen}
        aria-controls={list}
        aria-activedescendant={hits[at] ? `${list}-${at}` : undefined}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
          setWaited(false);
        }}
        onKeyDown={press}
        onBlur={() => setTimeout(() => setText(''), 150)}
      />
      {text === '' && <kbd>/</kbd>}
      {isOpen && (
        <div className="found" id={list} role="listbox" aria-label={t('found')}>
          {hits.length === 0 && <div role="presentation">{t('nothingByThatNameThat')}</div>}
          {hits.map((hit, index) => (
            // biome-ignore lint/a11y/useKeyWithClickEvents: the box above it has the keys, as a combobox does
            <div
              key={hit.path}
              id={`${list}-${index}`}
              role="option"
              aria-selected={index === at}
              tabIndex={-1}
              onMouseEnter={() => setAt(index)}
              onClick={() => go(hit)}
            >
              <span className="cut">{hit.name}</span>
              <span className="quiet small">{hit.kind}</span>
            </div>
          ))}
        </div>
      )}
    </search>
  );
}
