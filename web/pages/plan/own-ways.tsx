import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { rulePath } from '../../../core/messages/index.ts';
import type { Plan, Step } from '../../../core/people/index.ts';
import { Combobox, useViewer } from '../../parts/index.ts';
import { useRules } from '../../queries/index.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { stepsIn } from './plan-reach.tsx';
import { Steps } from './steps.tsx';
import { t } from '../../words/plan.ts';

interface OwnWaysProps {
  plan: Plan;
  /** What holds where the plan says nothing. */
  beneath: Plan | null;
  onChange: (plan: Plan) => void;
}

/** Rules for which somebody has steps of their own, one by one or all of a source at once. */
export function OwnWays({ plan, beneath, onChange }: OwnWaysProps) {
  const rules = useRules();
  const { directory } = useViewer();
  const live = (rules.data ?? [])
    .flatMap((row) => (row.live && row.state !== 'ended' ? [row.live] : []))
    .sort((a, b) => a.name.localeCompare(b.name));
  const own = Object.entries(plan.own ?? {});
  const nameOf = (id: string) => live.find((rule) => rule.id === id)?.name ?? id;
  const put = (entries: [string, Step[]][]) =>
    onChange({ ...plan, own: { ...plan.own, ...Object.fromEntries(entries) } });
  const back = (id: string) => onChange({ ...plan, own: Object.fromEntries(own.filter(([rule]) => rule !== id)) });
  const others = live.filter((rule) => plan.own?.[rule.id] === undefined);
  const stepsOf = (id: string): Step[] => {
    const urgency = live.find((rule) => rule.id === id)?.urgency ?? 'routine';
    return stepsIn(plan, beneath, urgency);
  };
  const add = (ids: string[]) => put(ids.map((id) => [id, stepsOf(id)]));
  const sources = directory.sources.filter((source) => others.some((rule) => rule.scope.sources.includes(source.id)));
  return (
    <section>
      <h2>{t('rulesThatGoAnotherWay')}</h2>
      {own.length > 0 && (
        <ul className="plain-list own-ways">
          {own.map(([id, steps]) => (
            <li key={id}>
              <Link to={rulePath(id)}>{nameOf(id)}</Link>
              <div className="say">
                <Steps steps={steps} before={null} label={nameOf(id)} onChange={(next) => put([[id, next]])} />
              </div>
              <Button variant="link" size="sm" onClick={() => back(id)}>
                {t('asAllOthers')}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Chip
        label={t('sendARuleAnotherWay')}
        className="is-adding"
        isPlain
        editor={(close) => (
          <>
            <Combobox
              label={t('whichRule')}
              offers={[
                ...others.map(({ id, name }) => ({ value: [id], name, kind: t('aRule') })),
                ...sources.map(({ id, name }) => ({
                  value: others.filter((rule) => rule.scope.sources.includes(id)).map((rule) => rule.id),
                  name: t('allThatLookAt', { name }),
                  kind: t('aSource'),
                })),
              ]}
              onAdd={(ids) => {
                add(ids);
                close();
              }}
            />
            <p className="small quiet">{t('theyBeginWithTheSteps')}</p>
          </>
        )}
      >
        {t('sendARuleAnotherWay2')}
      </Chip>
    </section>
  );
}
