import { checkMessage } from '../../messages/index.ts';
import { checkRule, type Fault, type Rule } from '../../rules/index.ts';
import { type Instant, printInstant } from '../../time/index.ts';
import type { Act, ScenarioInput, Setting } from './scenario.ts';

/** All that keeps a scenario from being run, but for its inputs: rules that cannot be, ids that stand twice, things in sources there are not. */
export function settingFaults(setting: Setting): Fault[] {
  const sources = new Map(setting.sources.map((source) => [source.id, source]));
  const faults: Fault[] = [];
  if (setting.end < setting.start)
    faults.push({ code: 'endBeforeStart', path: 'end', params: { start: printInstant(setting.start) } });
  for (const part of ['people', 'groups', 'contacts', 'sources', 'folders', 'items', 'wordings'] as const)
    faults.push(...twice(setting[part], part));
  faults.push(
    ...twice(
      setting.rules.map(({ rule }) => rule),
      'rules',
    ),
  );
  for (const part of ['items', 'folders'] as const) {
    for (const [at, { source }] of setting[part].entries())
      if (!sources.has(source))
        faults.push({
          code: 'unknownSource',
          path: `${part}.${at}.source`,
          params: { source, allowed: [...sources.keys()] },
        });
  }
  for (const [at, { rule }] of setting.rules.entries()) faults.push(...ruleFaults(rule, setting, `rules.${at}`));
  return faults;
}

function twice(list: readonly { id: string }[], part: string): Fault[] {
  const seen = new Set<string>();
  return list.flatMap(({ id }, at) => {
    if (!seen.has(id)) {
      seen.add(id);
      return [];
    }
    return [{ code: 'idTwice', path: `${part}.${at}.id`, params: { id } }];
  });
}

function ruleFaults(rule: Rule, setting: Setting, path: string): Fault[] {
  const sources = new Map(setting.sources.map((source) => [source.id, source]));
  const folders = new Map(setting.folders.map((folder) => [folder.id, folder]));
  const wordings = new Set(setting.wordings.map((wording) => wording.id));
  return [...checkRule(rule, { sources, folders }), ...checkMessage(rule, sources, { wordings })].map((fault) => ({
    ...fault,
    path: `${path}.${fault.path}`,
  }));
}

/** Judges inputs one by one, in their order: that they are in order of time and act on what there is. */
export class InputCheck {
  private last: Instant = Number.NEGATIVE_INFINITY;
  private readonly paused = new Set<string>();
  private readonly ids: Record<'person' | 'rule' | 'source' | 'folder', ReadonlySet<string>>;

  /** @param items ids of items that acts may name; `null`: any */
  constructor(
    private readonly setting: Setting,
    private readonly items: ReadonlySet<string> | null,
  ) {
    this.ids = {
      person: new Set(setting.people.map(({ id }) => id)),
      rule: new Set(setting.rules.map(({ rule }) => rule.id)),
      source: new Set(setting.sources.map(({ id }) => id)),
      folder: new Set(setting.folders.map(({ id }) => id)),
    };
  }

  /** What is wrong with the next input; its path begins with `path`. */
  faultsOf(input: ScenarioInput, path: string): Fault[] {
    const faults: Fault[] = [];
    if (input.at < this.last)
      faults.push({
        code: 'outOfOrder',
        path: `${path}.at`,
        params: { at: printInstant(input.at), before: printInstant(this.last) },
      });
    this.last = Math.max(this.last, input.at);
    if ('do' in input) return [...faults, ...this.actFaults(input, path)];
    if (!this.ids.source.has(input.source))
      faults.push({
        code: 'unknownSource',
        path: `${path}.source`,
        params: { source: input.source, allowed: [...this.ids.source] },
      });
    return faults;
  }

  private actFaults(act: Act, path: string): Fault[] {
    const faults: Fault[] = [];
    const unknown = (kind: 'person' | 'rule' | 'source' | 'folder', id: string | undefined, at: string) => {
      if (id !== undefined && !this.ids[kind].has(id))
        faults.push({ code: 'unknownId', path: at, params: { kind, id, allowed: [...this.ids[kind]] } });
    };
    if ('person' in act) unknown('person', act.person, `${path}.person`);
    if ('item' in act && act.item !== undefined && this.items && !this.items.has(act.item))
      faults.push({
        code: 'unknownId',
        path: `${path}.item`,
        params: { kind: 'item', id: act.item, allowed: [...this.items] },
      });
    if (act.do === 'publish') {
      unknown('rule', act.rule.id, `${path}.rule.id`);
      faults.push(...ruleFaults(act.rule, this.setting, `${path}.rule`));
    } else if ('rule' in act && act.do !== 'unsubscribe') unknown('rule', act.rule, `${path}.rule`);
    if (act.do === 'access') {
      for (const [at, entry] of act.access.entries()) {
        unknown('source', entry.source, `${path}.access.${at}.source`);
        unknown('folder', entry.folder, `${path}.access.${at}.folder`);
      }
    }
    if (act.do === 'pause') this.paused.add(act.rule);
    if (act.do === 'resume' && !this.paused.delete(act.rule))
      faults.push({ code: 'notPaused', path: `${path}.rule`, params: { rule: act.rule } });
    return faults;
  }
}

/** All faults of a scenario whose inputs are at hand. */
export function scenarioFaults(setting: Setting & { inputs: readonly ScenarioInput[] }): Fault[] {
  const items = new Set([
    ...setting.items.map(({ id }) => id),
    ...setting.inputs.flatMap((input) => ('do' in input ? [] : [input.item])),
  ]);
  const check = new InputCheck(setting, items);
  return [...settingFaults(setting), ...setting.inputs.flatMap((input, at) => check.faultsOf(input, `inputs.${at}`))];
}
