import { useId, useState } from 'react';
import { Form } from 'react-bootstrap';

/** Something that can be found by its name. */
export interface Found<T> {
  value: T;
  name: string;
  kind: string;
}

const MOST = 60;

/** Finds what to add among many by a part of its name; Enter adds the first. */
export function Finder<T>({ offers, label, onAdd }: { offers: Found<T>[]; label: string; onAdd: (value: T) => void }) {
  const [text, setText] = useState('');
  const id = useId();
  const wanted = text.trim().toLowerCase();
  const shown = offers.filter(({ name, kind }) => `${name} ${kind}`.toLowerCase().includes(wanted));
  const add = (value: T) => {
    onAdd(value);
    setText('');
  };
  return (
    <>
      <Form.Control
        type="search"
        placeholder={label}
        aria-label={label}
        aria-controls={id}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || !shown[0]) return;
          event.preventDefault();
          add(shown[0].value);
        }}
      />
      <div className="choices" id={id}>
        {shown.slice(0, MOST).map(({ value, name, kind }) => (
          <button key={JSON.stringify(value)} type="button" className="dropdown-item choice" onClick={() => add(value)}>
            <span className="cut">{name}</span>
            <span className="quiet small cut">{kind}</span>
          </button>
        ))}
        {shown.length === 0 && <span className="quiet">Nobody else by that name.</span>}
      </div>
    </>
  );
}
