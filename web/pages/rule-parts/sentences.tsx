import type { ReactNode } from 'react';
import { Form } from 'react-bootstrap';
import { conditionWords, occasionWords } from '../../../core/messages/index.ts';
import type { Urgency } from '../../../core/people/index.ts';
import type { Condition, Fault, FieldTest, Rule, StateTest } from '../../../core/rules/index.ts';
import { CHANGE_KINDS, type Source } from '../../../core/values/index.ts';
import { faultWords } from '../../../contract/words.ts';
import { Said, Several, useReading } from '../../parts/index.ts';
import { channelsWords, clausesOf, conditionOf, isOpen, joined, kindName, paceWords, selectorWords } from '../rule-words.ts';
import { Chip } from './chip.tsx';
import { ClauseEditor } from './clause-editor.tsx';
import { ChannelsEditor, PaceEditor } from './pace-editor.tsx';
import { PeopleEditor } from './people-editor.tsx';
import { firstTest, TestEditor } from './test-editor.tsx';

interface PartProps {
  rule: Rule;
  source: Source;
  faults: Fault[];
  edited: readonly string[];
  isFixed: boolean;
  onChange: (rule: Rule) => void;
}

/** The rule as sentences whose parts one presses and changes. */
export function Sentences(parts: PartProps) {
  return (
    <div>
      <LookAt {...parts} />
      <WhatHappens {...parts} />
      <CausedBy {...parts} />
      <WhoHears {...parts} />
      <HowSoon {...parts} />
      <WhatItSays {...parts} />
    </div>
  );
}

function Part({ title, faults, path, children, hint }: { title: string; faults: Fault[]; path: string[]; children: ReactNode; hint?: ReactNode }) {
  const own = faults.filter((fault) => path.some((start) => fault.path === start || fault.path.startsWith(`${start}.`)));
  return (
    <section className="part">
      <h2>{title}</h2>
      <div>
        <div className="say">{children}</div>
        {hint && <p className="hint">{hint}</p>}
        {own.map((fault) => <p key={`${fault.path} ${fault.code}`} className="hint fault">{faultWords(fault.code, fault.params)}</p>)}
      </div>
    </section>
  );
}

const mark = (edited: readonly string[], part: string) => (edited.includes(part) ? 'is-edited' : '');

function LookAt({ rule, source, faults, edited, isFixed, onChange }: PartProps) {
  const { directory, folder, me, names } = useReading();
  const tests: StateTest[] = 'all' in rule.scope.where ? rule.scope.where.all : [rule.scope.where];
  const putTests = (all: StateTest[]) => onChange({ ...rule, scope: { ...rule.scope, where: { all } } });
  const folders = directory.folders.filter((one) => one.source === source.id);
  const path = (id: string): string => [folder(folder(id)?.parent ?? '')?.name, folder(id)?.name].filter(Boolean).join(' / ');
  const className = mark(edited, 'scope');
  const first = source.fields.find((field) => field.type === 'choice') ?? source.fields[0];
  return (
    <Part title="Look at" faults={faults} path={['scope']}>
      <Chip label="Which source" className={className} disabled={isFixed} editor={() => (
        <Form.Select aria-label="Source" value={source.id} onChange={(event) => onChange({ ...rule, scope: { sources: [event.target.value], under: [], items: [], linked: false, where: { all: [] } }, when: { kinds: [], if: { all: [] }, burst: null }, due: null, idle: null, to: rule.to.filter((one) => one === '*' || !('field' in one)), message: { ...rule.message, show: [] } })}>
          {directory.sources.map((one) => <option key={one.id} value={one.id}>{one.name}</option>)}
        </Form.Select>
      )}><strong>{source.name}</strong></Chip>
      {source.kind === 'folders' && (
        <>
          below
          <Chip label="Below which folders" className={className} disabled={isFixed} editor={() => <Several name="under" label="Folders" options={folders.map((one) => [one.id, path(one.id)])} chosen={rule.scope.under} onChange={(under) => onChange({ ...rule, scope: { ...rule.scope, under } })} />}>
            {rule.scope.under.length === 0 ? 'any folder' : <strong>{joined(rule.scope.under.map(path), 'or')}</strong>}
          </Chip>
        </>
      )}
      {tests.length > 0 && 'where'}
      {tests.map((test, at) => (
        <Chip key={`${at} ${'field' in test ? test.field : ''}`} label="Narrowed to" className={className} disabled={isFixed} onRemove={() => putTests(tests.filter((_, index) => index !== at))}
          editor={() => ('op' in test ? <NarrowEditor test={test} source={source} onChange={(next) => putTests(tests.map((one, index) => (index === at ? next : one)))} /> : <p className="quiet">This part nests deeper than can be edited here.</p>)}>
          <Said words={conditionWords(test, { source, reader: me, names: names() })} />
        </Chip>
      ))}
      {!isFixed && first && <button type="button" className="chip is-adding" onClick={() => putTests([...tests, firstTest(first)])}>+ narrow</button>}
    </Part>
  );
}

const NarrowEditor = ({ test, source, onChange }: { test: FieldTest; source: Source; onChange: (test: FieldTest) => void }) => {
  const field = source.fields.find((one) => one.id === test.field);
  return (
    <>
      <Form.Select aria-label="Field" value={test.field} onChange={(event) => {
        const next = source.fields.find((one) => one.id === event.target.value);
        if (next) onChange(firstTest(next));
      }}>{source.fields.map((one) => <option key={one.id} value={one.id}>{one.name}</option>)}</Form.Select>
      {field && <TestEditor test={test} field={field} tense="is" onChange={onChange} />}
    </>
  );
};

function WhatHappens(props: PartProps) {
  const { rule, source, faults } = props;
  const { when } = rule;
  if (when) return <ChangesThat {...props} when={when} />;
  return <Part title="What happens" faults={faults} path={['when']} hint="A rule that tells by the calendar: no change brings it about.">it is <strong>{occasionWords(rule, source)}</strong></Part>;
}

function ChangesThat({ rule, when, source, faults, edited, isFixed, onChange }: PartProps & { when: NonNullable<Rule['when']> }) {
  const { me, names } = useReading();
  const { joiner, clauses } = clausesOf(when.if);
  const put = (next: Condition[], by = joiner) => onChange({ ...rule, when: { ...when, if: conditionOf({ joiner: by, clauses: next }) } });
  const className = mark(edited, 'when');
  const first = source.fields.find((field) => field.type === 'choice');
  const hint = isOpen(when.if) ? 'Every change of these kinds is caught. Say what has to happen, and fewer people are disturbed.' : clauses.some((clause) => 'became' in clause || 'all' in clause) ? 'Judged at the moment it becomes so, not at every later edit.' : null;
  return (
    <Part title="What happens" faults={faults} path={['when']} hint={hint}>
      <Chip label="Kinds of change" className={className} disabled={isFixed} editor={() => (
        <>
          <p className="small quiet">None chosen means any kind.</p>
          <Several name="kinds" label="Kinds of change" options={CHANGE_KINDS.map((kind) => [kind, kindName(kind)])} chosen={when.kinds} onChange={(kinds) => onChange({ ...rule, when: { ...when, kinds: CHANGE_KINDS.filter((kind) => kinds.includes(kind)) } })} />
        </>
      )}>{when.kinds.length === 0 ? 'anything happens' : <>it is <strong>{joined(when.kinds.map(kindName), 'or')}</strong></>}</Chip>
      {clauses.length > 0 && 'and'}
      {clauses.map((clause, at) => (
        <span key={`${at} ${clauses.length}`} style={{ display: 'contents' }}>
          {at > 0 && <button type="button" className="btn btn-link" disabled={isFixed} aria-label={`Joined by ${joiner === 'any' ? 'or' : 'and'}; press for the other`} onClick={() => put(clauses, joiner === 'any' ? 'all' : 'any')}>{joiner === 'any' ? 'or' : 'and'}</button>}
          <Chip label="What has to happen" className={className} disabled={isFixed} onRemove={() => put(clauses.filter((_, index) => index !== at))} editor={() => <ClauseEditor clause={clause} source={source} onChange={(next) => put(clauses.map((one, index) => (index === at ? next : one)))} />}>
            <Said words={conditionWords(clause, { source, reader: me, names: names() })} />
          </Chip>
        </span>
      ))}
      {!isFixed && <button type="button" className="chip is-adding" onClick={() => put([...clauses, first ? { became: firstTest(first) } : { changed: '*' }])}>{clauses.length === 0 ? '+ only if' : joiner === 'any' ? '+ or' : '+ and'}</button>}
    </Part>
  );
}

function CausedBy({ rule, source, faults, edited, isFixed, onChange }: PartProps) {
  const reading = useReading();
  const className = mark(edited, 'by');
  const list = (part: 'only' | 'except') => (
    <>
      {rule.by[part].map((selector, at) => (
        <Chip key={JSON.stringify(selector)} label={part === 'only' ? 'Only by' : 'But not by'} className={className} disabled={isFixed} onRemove={() => onChange({ ...rule, by: { ...rule.by, [part]: rule.by[part].filter((_, index) => index !== at) } })} editor={() => <p className="quiet">Changes by them {part === 'only' ? 'are caught' : 'are left out'}.</p>}>
          <Said words={selectorWords(selector, reading, source)} />
        </Chip>
      ))}
      {!isFixed && (
        <Chip label={part === 'only' ? 'Only by somebody' : 'But not by somebody'} className="is-adding" editor={() => <PeopleEditor source={source} chosen={rule.by[part]} withFields={false} onAdd={(selector) => onChange({ ...rule, by: { ...rule.by, [part]: [...rule.by[part], selector] } })} />}>
          {part === 'only' ? '+ only by' : '+ but not by'}
        </Chip>
      )}
    </>
  );
  return (
    <Part title="Caused by" faults={faults} path={['by']}>
      {rule.by.only.length === 0 && <span>anyone</span>}
      {list('only')}
      {rule.by.except.length > 0 && 'but not'}
      {list('except')}
    </Part>
  );
}

function WhoHears({ rule, source, faults, edited, isFixed, onChange }: PartProps) {
  const reading = useReading();
  const isTouched = faults.filter((fault) => fault.code !== 'nobodyHears' || rule.to.length > 0);
  return (
    <Part title="Who hears" faults={isTouched} path={['to', 'except']} hint={rule.ownChanges ? 'Whoever makes a change hears of it too.' : 'Nobody hears of their own change.'}>
      {rule.to.map((selector, at) => (
        <Chip key={JSON.stringify(selector)} label="Who hears" className={mark(edited, 'to')} disabled={isFixed} onRemove={() => onChange({ ...rule, to: rule.to.filter((_, index) => index !== at) })} editor={() => <p className="quiet">They hear of what this rule catches, as far as they may read it.</p>}>
          <Said words={selectorWords(selector, reading, source)} />
        </Chip>
      ))}
      {!isFixed && <Chip label="Add who hears" className="is-adding" editor={() => <PeopleEditor source={source} chosen={rule.to} onAdd={(selector) => onChange({ ...rule, to: [...rule.to, selector] })} />}>{rule.to.length === 0 ? '+ say who hears' : '+ add'}</Chip>}
    </Part>
  );
}

const URGENCY_WORDS: Record<Urgency, string> = { routine: 'routine', important: 'important', critical: 'critical' };

function HowSoon({ rule, faults, edited, isFixed, onChange }: PartProps) {
  return (
    <Part title="How soon" faults={faults} path={['pace', 'channels', 'urgency']} hint={rule.pace.kind === 'digest' ? 'What gathers until then comes as one message, each item once.' : undefined}>
      <Chip label="How soon" className={mark(edited, 'pace')} disabled={isFixed} editor={() => <PaceEditor pace={rule.pace} onChange={(pace) => onChange({ ...rule, pace })} />}>{rule.pace.kind === 'now' ? <strong>at once</strong> : <>in a <strong>{paceWords(rule.pace)}</strong></>}</Chip><span className="comma">,</span>
      <Chip label="By what" className={mark(edited, 'channels')} disabled={isFixed} editor={() => <ChannelsEditor channels={rule.channels} onChange={(channels) => onChange({ ...rule, channels })} />}><strong>{channelsWords(rule.channels)}</strong></Chip><span className="comma">, as</span>
      <Chip label="Urgency" className={mark(edited, 'urgency')} disabled={isFixed} editor={() => (
        <Form.Select aria-label="Urgency" value={rule.urgency} onChange={(event) => onChange({ ...rule, urgency: event.target.value as Urgency })}>
          {Object.entries(URGENCY_WORDS).map(([value, words]) => <option key={value} value={value}>{words}</option>)}
        </Form.Select>
      )}><strong>{rule.urgency}</strong></Chip>
    </Part>
  );
}

function WhatItSays({ rule, source, faults, edited, isFixed, onChange }: PartProps) {
  const className = mark(edited, 'message');
  const put = (message: Partial<Rule['message']>) => onChange({ ...rule, message: { ...rule.message, ...message } });
  return (
    <Part title="What it says" faults={faults} path={['message']} hint="Always: which item, what changed from what to what, who, when, where to click, and why.">
      what changed, and
      <Chip label="Fields to show as well" className={className} disabled={isFixed} editor={() => <Several name="show" label="Fields to show" options={source.fields.map((field) => [field.id, field.name])} chosen={rule.message.show} onChange={(show) => put({ show: source.fields.map((field) => field.id).filter((id) => show.includes(id)) })} />}>
        {rule.message.show.length === 0 ? 'no other fields' : <strong>{joined(rule.message.show.map((id) => source.fields.find((field) => field.id === id)?.name ?? id))}</strong>}
      </Chip>
      {(!isFixed || rule.message.doNow) && (
        <Chip label="What to do now" className={rule.message.doNow ? className : 'is-adding'} disabled={isFixed} editor={() => <Form.Control as="textarea" rows={2} maxLength={300} aria-label="What to do now" placeholder="Check that cover runs from today." value={rule.message.doNow ?? ''} onChange={(event) => put({ doNow: event.target.value || null })} />}>
          {rule.message.doNow ? <>do now: <strong>{rule.message.doNow}</strong></> : '+ what to do now'}
        </Chip>
      )}
    </Part>
  );
}
