import { useId, useState } from 'react';
import { Form } from 'react-bootstrap';
import type { Selector } from '../../../core/people/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { useReading } from '../../parts/index.ts';

/** Finds whom to add: fields of the item that name people, groups, single people. */
export function PeopleEditor({ source, chosen, onAdd, withFields = true }: { source: Source; chosen: Selector[]; onAdd: (selector: Selector) => void; withFields?: boolean }) {
  const { directory, me } = useReading();
  const [text, setText] = useState('');
  const id = useId();
  const known = new Set(chosen.map((one) => JSON.stringify(one)));
  const isMember = me.role === 'member';
  const all: { selector: Selector; name: string; kind: string }[] = [
    ...(withFields && !isMember ? source.fields.filter((field) => field.type === 'person' || field.type === 'people' || field.type === 'email').map((field) => ({ selector: { field: field.id }, name: `the item’s ${field.name}`, kind: 'whoever it names' })) : []),
    ...(isMember ? [] : directory.groups.map((group) => ({ selector: { group: group.id }, name: group.name, kind: 'group' }))),
    ...directory.people.filter((person) => person.isActive && (!isMember || !withFields || person.id === me.id)).map((person) => ({ selector: { person: person.id }, name: person.name, kind: person.title })),
  ];
  const wanted = text.trim().toLowerCase();
  const shown = all.filter(({ selector, name, kind }) => !known.has(JSON.stringify(selector)) && `${name} ${kind}`.toLowerCase().includes(wanted));
  return (
    <>
      <Form.Control type="search" placeholder="Find a person, group or field" aria-label="Find a person, group or field" aria-controls={id} value={text} onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && shown[0]) {
            event.preventDefault();
            onAdd(shown[0].selector);
            setText('');
          }
        }} />
      <div className="choices" id={id}>
        {shown.slice(0, 40).map(({ selector, name, kind }) => (
          <button key={JSON.stringify(selector)} type="button" className="dropdown-item" style={{ padding: '0.2rem 0.4rem', display: 'flex', justifyContent: 'space-between', gap: '1rem' }} onClick={() => onAdd(selector)}>
            <span className="cut">{name}</span><span className="quiet small cut">{kind}</span>
          </button>
        ))}
        {shown.length === 0 && <span className="quiet">Nobody else by that name.</span>}
      </div>
    </>
  );
}
