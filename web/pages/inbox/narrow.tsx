import { Form } from 'react-bootstrap';
import { useViewer, urgencyName } from '../../parts/index.ts';
import { type InboxAsked, useRules } from '../../queries/index.ts';
import { t } from '../../words/inbox.ts';

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
        aria-label={t('narrowYourMessagesByWords')}
        placeholder={t('narrowByWords')}
        value={asked.text ?? ''}
        onChange={(event) => onPut('text', event.target.value)}
      />
      {pick('source', t('ofWhichSource'), t('everySource'), directory.sources)}
      {pick('rule', t('byWhichRule'), t('everyRule'), live)}
      {pick('by', t('doneByWhom'), t('anybody'), directory.people)}
      {pick(
        'urgency',
        t('howUrgent'),
        t('anyUrgency'),
        (['critical', 'important', 'routine'] as const).map((id) => ({ id, name: urgencyName(id) })),
      )}
    </div>
  );
}
