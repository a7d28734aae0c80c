import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { PlanPage } from '../../../contract/wire/index.ts';
import type { Plan } from '../../../core/people/index.ts';
import { type Found, ProblemNote, useViewer } from '../../parts/index.ts';
import { useAddressActs, useRules } from '../../queries/index.ts';
import { t } from '../../words/plan.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { FindChip } from '../rules/editors/find-chip.tsx';
import { AddAddress, Waiting } from './add-address.tsx';

interface FurtherProps {
  plan: Plan;
  page: PlanPage;
  onChange: (plan: Plan) => void;
}

/** Further addresses of somebody's own, each confirmed, and the rules and sources whose email goes there. */
export function FurtherAddresses({ plan, page, onChange }: FurtherProps) {
  const [isAdding, setAdding] = useState(false);
  const waiting = page.asks.find((ask) => ask.isFurther);
  const isAskingElse = page.asks.some((ask) => ask.channel === 'email' && !ask.isFurther);
  return (
    <section>
      <h2>{t('emailToAnotherAddress')}</h2>
      <ul className="plain-list own-ways addresses">
        {page.further.map((address) => (
          <Further key={address} address={address} plan={plan} onChange={onChange} />
        ))}
        {waiting && <Waiting ask={waiting} />}
        {isAdding && !waiting && <AddAddress channel="email" isFurther onDone={() => setAdding(false)} />}
      </ul>
      {!isAdding && !waiting && !isAskingElse && (
        <button type="button" className="chip is-adding" onClick={() => setAdding(true)}>
          {t('addAnAddress')}
        </button>
      )}
      {isAskingElse && !waiting && <p className="quiet small">{t('confirmTheOtherFirst')}</p>}
    </section>
  );
}

/** What goes to an address: one rule, or all of a source. */
interface Kept {
  kind: 'rules' | 'sources';
  id: string;
}

function Further({ address, plan, onChange }: { address: string; plan: Plan; onChange: (plan: Plan) => void }) {
  const rules = useRules();
  const { directory } = useViewer();
  const { removeFurther } = useAddressActs();
  const live = (rules.data ?? [])
    .flatMap((row) => (row.live && row.state !== 'ended' ? [row.live] : []))
    .sort((a, b) => a.name.localeCompare(b.name));
  const names = {
    rules: (id: string) => live.find((rule) => rule.id === id)?.name ?? id,
    sources: (id: string) => t('allOfSource', { name: directory.sources.find((one) => one.id === id)?.name ?? id }),
  };
  const named = (['rules', 'sources'] as const).flatMap((kind) =>
    Object.entries(plan.emailTo?.[kind] ?? {}).flatMap(([id, to]) => (to === address ? [{ kind, id }] : [])),
  );
  const put = (kind: 'rules' | 'sources', id: string, to: string | null) => {
    const { [id]: _, ...others } = plan.emailTo?.[kind] ?? {};
    onChange({ ...plan, emailTo: { ...plan.emailTo, [kind]: to === null ? others : { ...others, [id]: to } } });
  };
  return (
    <li className="is-form">
      <strong className="wrap-anywhere">{address}</strong>
      <div className="say">
        {named.length === 0 && <span className="quiet">{t('nothingGoesThere')}</span>}
        {named.map(({ kind, id }) => (
          <Chip
            key={`${kind} ${id}`}
            label={t('goesThere', { name: names[kind](id) })}
            onRemove={() => put(kind, id, null)}
            editor={() => <p className="small quiet">{t('gatheredGoesToTheUsual')}</p>}
          >
            {names[kind](id)}
          </Chip>
        ))}
        <FindChip<Kept>
          words={t('whatGoesThere')}
          className="is-adding"
          question={t('whatGoesTo', { address })}
          offers={[
            ...live.map(({ id, name }): Found<Kept> => ({ value: { kind: 'rules', id }, name, kind: t('aRule') })),
            ...directory.sources.map(
              ({ id }): Found<Kept> => ({
                value: { kind: 'sources', id },
                name: names.sources(id),
                kind: t('aSource'),
              }),
            ),
          ]}
          onChoose={({ kind, id }) => put(kind, id, address)}
        />
      </div>
      {removeFurther.error && <ProblemNote error={removeFurther.error} />}
      <Button
        variant="link"
        size="sm"
        aria-label={t('takeAwayNamed', { name: address })}
        disabled={removeFurther.isPending}
        onClick={() => removeFurther.mutate(address)}
      >
        {t('takeItAway')}
      </Button>
    </li>
  );
}
