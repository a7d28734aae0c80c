import { Form } from 'react-bootstrap';
import { useViewer } from '../../parts/index.ts';
import { type InboxAsked, useRules } from '../../queries/index.ts';

export const NARROWED = ['text', 'rule', 'source', 'urgency', 'by'] as const;

/** Narrows the inbox by words, source, rule, person and urgency. */
export function Narrow({ asked, onPut }: { asked: InboxAsked; onPut: (key: string, value: string) => void }) {
  const { directory } = useViewer();
  const rules = useRules();
  const live = (rules.data ?? [])
    .flatMap((row) => (row.live && row.state !== 'ended' ? [{ id: row.id, name: row.live.name }] : []))
    .sort((a, b) => a.name.localeCompare(b.name));
  const pick = (
    key: 'source' | 'rule' | 'by' | 'urgency',
    label: string,
    open: string,
    options: { id: string; name: string }[],
  ) => (
    <Form.Select aria-label={label} value={asked[key] ?? ''} onChange={(event) => onPut(key, event.target.value)}>
      <option value="">{open}</option>
      {options.map((one) => (
        <option key={one.id} value={one.id}>
          {one.name}
        </option>
      ))}
    </Form.Select>
  );
  return (
    <div className="filters in-one-row is-even">
      <Form.Control
        type="search"
        aria-label="Narrow your messages by words"
        placeholder="Narrow by words"
        value={asked.text ?? ''}
        onChange={(event) => onPut('text', event.target.value)}
      />
      {pick('source', 'Of which source', 'Every source', directory.sources)}
      {pick('rule', 'By which rule', 'Every rule', live)}
      {pick('by', 'Done by whom', 'Anybody', directory.people)}
      {pick(
        'urgency',
        'How urgent',
        'Any urgency',
        ['critical', 'important', 'routine'].map((id) => ({ id, name: id })),
      )}
    </div>
  );
}
