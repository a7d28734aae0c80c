import { keepPreviousData, type MutationMeta, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { RuleAct, RuleRow } from '../../contract/wire/index.ts';
import type { Rule, Tally } from '../../core/rules/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { t } from '../words/parts.ts';
import { SHOWN } from './shown.ts';

export const useRules = () => useQuery({ queryKey: keys.rules.all, queryFn: () => call('rules.list') });
/** What a paused rule keeps grows without a word from the server: it is asked for again and again. */
export const useRule = (id: string | null) =>
  useQuery({
    queryKey: keys.rules.one(id),
    queryFn: () => call('rules.read', { params: { id: id ?? '' } }),
    enabled: id !== null,
    refetchInterval: ({ state }) => (state.data?.isPaused ? 4000 : false),
  });

export type Days = 7 | 30 | 90;

/** A rule as the server counts and tries it: without the name, which costs nothing. */
const counted = (document: Rule) => ({ ...document, id: 'draft', name: t('aNewRule') });

/** The last answer stays until the next is there; what cannot be counted is not asked for again by itself. */
const COUNTED = { placeholderData: keepPreviousData, staleTime: 30_000, retry: false } as const;

/** What the rule, as it is being edited, would have done in the last days. */
export const useCost = (document: Rule, days: Days, isSound: boolean) =>
  useQuery({
    queryKey: keys.rules.cost(days, JSON.stringify(counted(document))),
    queryFn: ({ signal }) => call('rules.cost', { body: { document: counted(document), days }, signal }),
    enabled: isSound,
    ...COUNTED,
  });

/** A mark of the same sort at nothing: where it stands makes no difference to how a tally moves. */
const bareMark = ({ value }: Tally['becomes']): Tally['becomes'] => ({
  op: 'above',
  value: typeof value === 'object' ? { ...value, amount: '0' } : 0,
});

/** How the rule's tally moved over 90 days; whatever its mark is. */
export const useTally = (document: Rule) => {
  const { tally } = document;
  const asked = { ...counted(document), tally: tally && { ...tally, becomes: bareMark(tally.becomes) } };
  return useQuery({
    queryKey: keys.rules.tally(JSON.stringify(asked)),
    queryFn: ({ signal }) => call('rules.tally', { body: { document: asked, days: 90 }, signal }),
    enabled: tally !== null,
    ...COUNTED,
  });
};

/** What a typed sentence comes to, as it stands and with the cursor where it is; the last answer stays until the next is there. */
export function useReading(
  typed: { text: string; cursor: number | null } | null,
  rule: { scope: Pick<Rule['scope'], 'sources'>; zone: string },
) {
  const { text, cursor } = typed ?? { text: '', cursor: null };
  const asked = { sources: rule.scope.sources, zone: rule.zone };
  return useQuery({
    queryKey: keys.rules.typed(text, cursor, JSON.stringify(asked)),
    queryFn: ({ signal }) => call('rules.typed', { body: { text, cursor, ...asked }, signal }),
    enabled: typed !== null,
    ...COUNTED,
  });
}

/** The rule as a sentence; `zone` is the one that needs no word. */
export const useSaid = (document: string, zone: string) =>
  useQuery({
    queryKey: keys.rules.said(document),
    queryFn: ({ signal }) => call('rules.said', { body: { document: JSON.parse(document), zone }, signal }),
    enabled: document !== '',
    ...COUNTED,
  });

/** What would make the rule cheaper, each with its own count. */
export const useSuggestions = (document: Rule, days: Days, isWanted: boolean) =>
  useQuery({
    queryKey: keys.rules.suggestions(days, JSON.stringify(counted(document))),
    queryFn: ({ signal }) => call('rules.suggestions', { body: { document: counted(document), days }, signal }),
    enabled: isWanted,
    ...COUNTED,
  });

/** The rule tried on one past change, or an item; the newest that it would catch where none is chosen. */
export const useTry = (document: Rule, on: { change: string | null; person: string | null }, isSound: boolean) =>
  useQuery({
    queryKey: keys.rules.tried(on.change, on.person, JSON.stringify({ ...document, id: 'draft' })),
    queryFn: () =>
      call('rules.try', {
        body: {
          document: { ...document, id: 'draft', name: document.name.trim() || t('aNewRule') },
          change: on.change ?? undefined,
          person: on.person ?? undefined,
        },
      }),
    enabled: isSound,
    ...COUNTED,
  });

/** Sends the message of a rule that is tried to whoever tries it. */
export const useSendTrial = () =>
  useMutation({
    meta: SHOWN,
    mutationFn: (asked: {
      document: Rule;
      change: string | null;
      person: string | null;
      channel: 'inApp' | 'email' | 'text';
    }) =>
      call('rules.sendTrial', {
        body: {
          document: { ...asked.document, id: 'draft', name: asked.document.name.trim() || t('aNewRule') },
          change: asked.change ?? undefined,
          person: asked.person ?? undefined,
          channel: asked.channel,
        },
      }),
  });

/** A past change by its id, to start a rule from. */
export const pastChangeQuery = (source: string, change: string) => ({
  queryKey: keys.change(source, change),
  queryFn: () => call('changes.read', { params: { source, id: change } }),
});

export const useVersions = (id: string | null) =>
  useQuery({
    queryKey: keys.rules.versions(id),
    queryFn: () => call('rules.versions', { params: { id: id ?? '' } }),
    enabled: id !== null,
  });

/** Says every so often that the rule is open here, and learns who else has it open. */
export const useEditing = (id: string | null) =>
  useQuery({
    queryKey: keys.rules.editing(id),
    queryFn: () => call('rules.editing', { params: { id: id ?? '' } }),
    enabled: id !== null,
    refetchInterval: 15_000,
    retry: false,
  });

function useRuleAct<T, R = RuleRow>(act: (input: T) => Promise<R>, meta: MutationMeta = SHOWN) {
  const client = useQueryClient();
  return useMutation({
    meta,
    mutationFn: act,
    onSuccess: () => client.invalidateQueries({ queryKey: keys.rules.all }),
  });
}

export const useCreateRule = () =>
  useRuleAct((document: Rule) => call('rules.create', { body: { document: { ...document } } }));
/** Makes drafts of several documents, all or none. */
export const useImportRules = () =>
  useRuleAct((documents: Record<string, unknown>[]) => call('rules.import', { body: { documents } }));
export const useKeepDraft = () =>
  useRuleAct(({ document, revision }: { document: Rule; revision: number }) =>
    call('rules.keepDraft', { params: { id: document.id }, body: { document: { ...document }, revision } }),
  );
export const useDropDraft = () => useRuleAct((id: string) => call('rules.dropDraft', { params: { id } }));
export const usePutLive = () =>
  useRuleAct(({ id, ...body }: { id: string; revision: number; why?: string | null; isSure?: boolean }) =>
    call('rules.putLive', { params: { id }, body }),
  );
/** Lets edits live that wait for a second pair of eyes, or sends them back with a word. */
export const useApprove = () =>
  useRuleAct(({ id, revision }: { id: string; revision: number }) =>
    call('rules.approve', { params: { id }, body: { revision } }),
  );
export const useSendBack = () =>
  useRuleAct(({ id, why }: { id: string; why: string | null }) =>
    call('rules.sendBack', { params: { id }, body: { why } }),
  );
/** Puts another document of a rule live, as one act: kept as an edit, and live at once. Whoever asks has seen what it costs. */
export const useChangeLive = () =>
  useRuleAct(async ({ document, revision, why }: { document: Rule; revision: number; why: string }) => {
    const { id } = document;
    const kept = await call('rules.keepDraft', { params: { id }, body: { document: { ...document }, revision } });
    return call('rules.putLive', { params: { id }, body: { revision: kept.draftRevision, why, isSure: true } });
  });
/** Acts on several rules at once. */
export const useRuleActs = () => useRuleAct((act: RuleAct) => call('rules.acts', { body: act }), {});

/** Edits a rule so that it leaves somebody out; the edit gathers beside what is live. */
export const useLeaveOut = () =>
  useRuleAct(async ({ rule, person }: { rule: string; person: string }) => {
    const { draft, live, draftRevision } = await call('rules.read', { params: { id: rule } });
    const document = (draft ?? live) as Rule;
    return call('rules.keepDraft', {
      params: { id: rule },
      body: { document: { ...document, except: [...document.except, { person }] }, revision: draftRevision },
    });
  });
