import { Button } from 'react-bootstrap';
import type { Plan, Ways } from '../../../core/people/index.ts';
import { CHANGE_KINDS } from '../../../core/values/index.ts';
import { kindName, kindNames, Several, useViewer } from '../../parts/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/plan.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { moved } from '../rules/editors/condition-groups.ts';
import { stepsIn } from './plan-reach.tsx';
import { Steps } from './steps.tsx';

/** Ways by what it is: of some sources, of some kinds of change. The first that fits counts, so that their order is said. */
export function ByWhatItIs({
  plan,
  beneath,
  onChange,
}: {
  plan: Plan;
  beneath: Plan | null;
  onChange: (plan: Plan) => void;
}) {
  const ways = plan.ways ?? [];
  const put = (next: Ways[]) => {
    const { ways: _, ...rest } = plan;
    onChange(next.length > 0 ? { ...rest, ways: next } : rest);
  };
  const putOne = (at: number, one: Ways) => put(ways.map((other, nth) => (nth === at ? one : other)));
  return (
    <section>
      <h2>{t('byWhatItIs')}</h2>
      {ways.length > 0 && (
        <ol className="plain-list own-ways">
          {ways.map((one, at) => (
            <li key={at}>
              <div className="say">
                <FitsChip
                  ways={one}
                  onChange={(next) => putOne(at, next)}
                  onRemove={() => put(ways.filter((_, nth) => nth !== at))}
                />
                <Steps
                  steps={one.steps}
                  before={null}
                  label={t('stepsOfWays', { nth: at + 1 })}
                  onChange={(steps) => putOne(at, { ...one, steps })}
                />
              </div>
              {at > 0 && (
                <Button variant="link" size="sm" onClick={() => put(moved(ways, at, at - 1))}>
                  {t('earlier')}
                </Button>
              )}
            </li>
          ))}
        </ol>
      )}
      <button
        type="button"
        className="chip is-adding"
        onClick={() => put([...ways, { steps: stepsIn(plan, beneath, 'routine') }])}
      >
        {t('addWays')}
      </button>
      {ways.length > 0 && <p className="small quiet mt-2">{t('firstThatFits')}</p>}
    </section>
  );
}

/** Of which sources and kinds of change; none chosen means any. */
function FitsChip({ ways, onChange, onRemove }: { ways: Ways; onChange: (ways: Ways) => void; onRemove: () => void }) {
  const { directory, source } = useViewer();
  const { sources = [], kinds = [] } = ways;
  const putSources = (chosen: string[]) => {
    const { sources: _, ...rest } = ways;
    onChange(chosen.length > 0 ? { ...rest, sources: chosen } : rest);
  };
  const putKinds = (chosen: string[]) => {
    const { kinds: _, ...rest } = ways;
    const named = CHANGE_KINDS.filter((kind) => chosen.includes(kind));
    onChange(named.length > 0 ? { ...rest, kinds: named } : rest);
  };
  return (
    <Chip
      label={t('ofWhatWays')}
      startsOpen={sources.length + kinds.length === 0}
      onRemove={onRemove}
      editor={() => (
        <>
          <p className="small quiet">{t('ofTheseSources')}</p>
          <Several
            name="ways-sources"
            label={t('ofTheseSources')}
            options={directory.sources.map((one) => [one.id, one.name])}
            chosen={sources}
            onChange={putSources}
          />
          <p className="small quiet">{t('ofTheseKinds')}</p>
          <Several
            name="ways-kinds"
            label={t('ofTheseKinds')}
            options={CHANGE_KINDS.map((kind) => [kind, kindName(kind)])}
            chosen={kinds}
            onChange={putKinds}
          />
        </>
      )}
    >
      <strong>
        {sources.length > 0 ? phrases().or(sources.map((id) => source(id)?.name ?? id)) : t('ofAnySource')}
      </strong>
      {kinds.length > 0 && ` ${t('ifItIs', { kinds: kindNames(kinds) })}`}
    </Chip>
  );
}
