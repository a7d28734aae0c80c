import { useId, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { t } from '../../../words/editors.ts';

/** What is being typed as a placeholder just before the caret; `null` where none is. */
const typedIn = (text: string, caret: number): string | null =>
  /\{\{\s*([\w.]*)$/.exec(text.slice(0, caret))?.[1] ?? null;

/** A text with placeholders: they are chosen from a list, or completed as one types `{{`. */
export function PlaceholderInput({
  id,
  label,
  names,
  value,
  rows,
  onChange,
}: {
  id: string;
  label: string;
  names: string[];
  value: string;
  rows: number;
  onChange: (value: string) => void;
}) {
  const area = useRef<HTMLTextAreaElement>(null);
  const list = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const offered = typed === null ? [] : names.filter((name) => name.includes(typed)).slice(0, 6);

  const put = (name: string) => {
    const caret = area.current?.selectionStart ?? value.length;
    const start = typed === null ? caret : value.slice(0, caret).lastIndexOf('{{');
    const end = value.slice(caret).startsWith(' }}')
      ? caret + 3
      : value.slice(caret).startsWith('}}')
        ? caret + 2
        : caret;
    const word = `{{ ${name} }}`;
    onChange(value.slice(0, start) + word + value.slice(end));
    setTyped(null);
    requestAnimationFrame(() => {
      area.current?.focus();
      area.current?.setSelectionRange(start + word.length, start + word.length);
    });
  };
  return (
    <div className="placeholder-input">
      <Form.Control
        as="textarea"
        ref={area}
        id={id}
        rows={rows}
        value={value}
        aria-controls={offered.length > 0 ? list : undefined}
        aria-describedby={`${id}-names`}
        spellCheck
        onChange={(event) => {
          onChange(event.target.value);
          setTyped(typedIn(event.target.value, event.target.selectionStart ?? 0));
          setAt(0);
        }}
        onBlur={() => setTyped(null)}
        onKeyDown={(event) => {
          if (offered.length === 0) return;
          if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            setAt((at + (event.key === 'ArrowDown' ? 1 : offered.length - 1)) % offered.length);
          } else if (event.key === 'Enter' || event.key === 'Tab') {
            event.preventDefault();
            put(offered[at] ?? '');
          } else if (event.key === 'Escape') {
            event.stopPropagation();
            event.preventDefault();
            setTyped(null);
          }
        }}
      />
      {offered.length > 0 && (
        <ul className="completions" id={list} aria-label={t('placeholdersThatFit')}>
          {offered.map((name, index) => (
            <li key={name} className={index === at ? 'is-at' : ''}>
              <button
                type="button"
                tabIndex={-1}
                onMouseDown={(event) => {
                  event.preventDefault();
                  put(name);
                }}
              >
                {name}
              </button>
            </li>
          ))}
        </ul>
      )}
      <Form.Select
        id={`${id}-names`}
        aria-label={t('putIntoThe', { label: label.toLowerCase() })}
        size="sm"
        value=""
        onChange={(event) => put(event.target.value)}
      >
        <option value="">{t('putIn')}</option>
        {names.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </Form.Select>
    </div>
  );
}
