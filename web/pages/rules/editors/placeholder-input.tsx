import { type KeyboardEvent, useId, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { t } from '../../../words/editors.ts';

/** What is being typed as a placeholder just before the caret; `null` where none is. */
const typedIn = (text: string, caret: number): string | null =>
  /\{\{\s*([\w.]*)$/.exec(text.slice(0, caret))?.[1] ?? null;

/** How much of what follows the caret closes a placeholder already. */
const closedBy = (rest: string): number => /^ ?\}\}/.exec(rest)?.[0].length ?? 0;

interface PlaceholderProps {
  id: string;
  label: string;
  names: string[];
  value: string;
  rows: number;
  onChange: (value: string) => void;
}

/** What keys do while names are offered: to the next or the one before, taking it, leaving it. */
const STEPS: Record<string, 1 | -1 | 'put' | 'leave'> = {
  ArrowDown: 1,
  ArrowUp: -1,
  Enter: 'put',
  Tab: 'put',
  Escape: 'leave',
};

/** A text with placeholders: they are chosen from a list, or completed as one types `{{`. */
export function PlaceholderInput({ id, label, names, value, rows, onChange }: PlaceholderProps) {
  const area = useRef<HTMLTextAreaElement>(null);
  const list = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const offered = typed === null ? [] : names.filter((name) => name.includes(typed)).slice(0, 6);

  const put = (name: string) => {
    const caret = area.current?.selectionStart ?? value.length;
    const start = typed === null ? caret : value.slice(0, caret).lastIndexOf('{{');
    const end = caret + closedBy(value.slice(caret));
    const word = `{{ ${name} }}`;
    onChange(value.slice(0, start) + word + value.slice(end));
    setTyped(null);
    requestAnimationFrame(() => {
      area.current?.focus();
      area.current?.setSelectionRange(start + word.length, start + word.length);
    });
  };
  const press = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (offered.length === 0 || !step) return;
    event.preventDefault();
    if (step === 'put') return put(offered[at] ?? '');
    if (step !== 'leave') return setAt((at + step + offered.length) % offered.length);
    event.stopPropagation();
    setTyped(null);
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
        onKeyDown={press}
      />
      {offered.length > 0 && <Completions id={list} offered={offered} at={at} onPut={put} />}
      <Names id={`${id}-names`} label={label} names={names} onPut={put} />
    </div>
  );
}

interface NamesProps extends Pick<PlaceholderProps, 'id' | 'label' | 'names'> {
  onPut: (name: string) => void;
}

/** All placeholders there are, one to be put in at the caret. */
const Names = ({ id, label, names, onPut }: NamesProps) => (
  <Form.Select
    id={id}
    aria-label={t('putIntoThe', { label: label.toLowerCase() })}
    size="sm"
    value=""
    onChange={(event) => onPut(event.target.value)}
  >
    <option value="">{t('putIn')}</option>
    {names.map((name) => (
      <option key={name}>{name}</option>
    ))}
  </Form.Select>
);

const Completions = ({
  id,
  offered,
  at,
  onPut,
}: {
  id: string;
  offered: string[];
  at: number;
  onPut: (name: string) => void;
}) => (
  <ul className="completions" id={id} aria-label={t('placeholdersThatFit')}>
    {offered.map((name, index) => (
      <li key={name} className={index === at ? 'is-at' : ''}>
        <button
          type="button"
          tabIndex={-1}
          onMouseDown={(event) => {
            event.preventDefault();
            onPut(name);
          }}
        >
          {name}
        </button>
      </li>
    ))}
  </ul>
);
