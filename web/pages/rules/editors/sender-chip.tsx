import { Form } from 'react-bootstrap';
import { Link } from 'react-router';
import type { Rule, RuleMessage } from '../../../../core/rules/index.ts';
import { Radios, senderName, useViewer } from '../../../parts/index.ts';
import { t } from '../../../words/editors.ts';
import { Chip } from './chip.tsx';
import { mark } from './part.tsx';

interface SenderProps {
  rule: Rule;
  put: (part: Partial<RuleMessage>) => void;
  edited: Parameters<typeof mark>[0];
  isFixed: boolean;
}

/** In whose name the rule's messages come, and where answers go. */
export function SenderChip({ rule, put, edited, isFixed }: SenderProps) {
  const viewer = useViewer();
  const { replyTo } = rule.message;
  return (
    <Chip
      label={t('inWhoseNameAndWhere')}
      className={mark(edited, 'message')}
      disabled={isFixed}
      onRemove={() => put({ from: 'ojo', replyTo: null })}
      editor={() => <SenderEditor rule={rule} put={put} />}
    >
      {t.rich('inTheNameOf', { name: senderName(rule, viewer) })}
      {replyTo !== null && t.rich('answersTo', { replyTo: replyTo || '…' })}
    </Chip>
  );
}

/** Ojo, and whoever looks after the rule, among the ids of names, which have no sign like it. */
const OJO = '*ojo';
const OWNER = '*owner';

const keyOf = (from: RuleMessage['from']): string => {
  if (typeof from === 'object') return from.sender;
  return from === 'owner' ? OWNER : OJO;
};
const fromOf = (key: string): RuleMessage['from'] => {
  if (key === OJO) return 'ojo';
  return key === OWNER ? 'owner' : { sender: key };
};

function SenderEditor({ rule, put }: Pick<SenderProps, 'rule' | 'put'>) {
  const { directory, person, me } = useViewer();
  const { senders } = directory.house;
  const { from, replyTo } = rule.message;
  const owner = person(rule.owner);
  const named = senders.map(({ id, name, address }) => {
    const words = (
      <>
        {name} <span className="quiet small wrap-anywhere">{address}</span>
      </>
    );
    return [id, words] as const;
  });
  const chosen = typeof from === 'object' ? senders.find(({ id }) => id === from.sender) : undefined;
  return (
    <>
      <fieldset className="choices">
        <legend className="form-label">{t('inWhoseName')}</legend>
        <Radios
          name="from"
          options={[[OJO, 'Ojo'], ...named, [OWNER, t('whoeverLooksAfterIt', { owner })]]}
          chosen={keyOf(from)}
          onChange={(key) => put({ from: fromOf(key) })}
        />
        {me.role === 'steward' && (
          <Link className="small mt-1" to="/wordings#senders">
            {t('setUpNames')}
          </Link>
        )}
      </fieldset>
      <div>
        <Form.Label htmlFor="reply-to">{t('answersGoTo')}</Form.Label>
        <Form.Control
          id="reply-to"
          type="email"
          placeholder={chosen?.address || (from === 'owner' ? owner : t('nobody'))}
          value={replyTo ?? ''}
          onChange={(event) => put({ replyTo: event.target.value || null })}
        />
      </div>
    </>
  );
}
