import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { type ReactNode, useState } from 'react';
import { MemoryRouter } from 'react-router';
import { afterEach, vi } from 'vitest';
import { ruleSchema } from '../../contract/documents/index.ts';
import type { DirectoryPage, Me, RuleRow } from '../../contract/wire/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import type { Source } from '../../core/values/index.ts';
import { Notices, ViewerProvider } from '../parts/index.ts';
import { speak } from '../words/index.ts';

/** Loan agreements, with a field of every kind that editors tell apart. */
export const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loan agreements',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Loan', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Requested', 'Agreed', 'On view', 'Returned'] },
    { id: 'registrar', name: 'Registrar', type: 'person' },
    { id: 'insured', name: 'Insured value', type: 'money' },
    { id: 'due', name: 'Due back', type: 'date' },
    { id: 'hazards', name: 'Hazards', type: 'choices', options: ['Glass', 'Feathers', 'Salt'] },
    { id: 'fragile', name: 'Fragile', type: 'boolean' },
    { id: 'crates', name: 'Crates', type: 'number' },
    { id: 'note', name: 'Note', type: 'longText' },
    { id: 'cover', name: 'Cover limit', type: 'money' },
  ],
};

export const ME: Me = {
  id: 'ines',
  name: 'Inés Calder',
  title: 'Registrar, loans',
  role: 'coordinator',
  zone: 'Europe/Madrid',
  locale: 'en-GB',
  unread: 2,
  isDemo: false,
  owesSecond: false,
  now: '2026-03-04T12:00:00Z',
};

export const DIRECTORY: DirectoryPage = {
  people: [
    { id: 'ines', name: 'Inés Calder', title: 'Registrar, loans', isActive: true },
    { id: 'mei', name: 'Mei Tanaka', title: 'Insurance', isActive: true },
    { id: 'wren', name: 'Wren Adeyemi', title: 'Loans officer', isActive: true },
  ],
  groups: [{ id: 'insurers', name: 'Insurers', members: ['mei'], groups: [] }],
  sources: [{ ...LOANS, about: 'What the museum borrows' }],
  folders: [],
  contacts: [{ id: 'ferro', name: 'Ana Ferro', isConfirmed: true }],
  webhooks: [],
  systems: [{ source: 'loans', name: 'import' }],
  wordings: [],
  house: { letterhead: null, signOff: null, senders: [], secondEyes: [] },
  coordinates: ['loans'],
  keepers: [{ source: 'loans', people: ['ines'] }],
  stewards: ['ines'],
};

/** A rule of loans, sound as it stands. */
export const ruleOf = (more: Record<string, unknown> = {}): Rule =>
  ruleSchema.parse({
    id: 'on-view',
    name: 'Loan goes on view',
    owner: 'ines',
    zone: 'Europe/Madrid',
    scope: { sources: ['loans'] },
    when: { if: { became: { field: 'status', op: 'is', value: 'On view' } } },
    to: [{ field: 'registrar' }],
    ...more,
  });

/** A rule's row as lists have it: live, with nothing edited. */
export const rowOf = (more: Partial<RuleRow> = {}): RuleRow => ({
  id: 'on-view',
  state: 'live',
  version: 1,
  owner: 'ines',
  live: ruleOf(),
  liveFrom: '2026-03-01T09:00:00.000Z',
  liveUntil: null,
  isPaused: false,
  kept: 0,
  draft: null,
  draftRevision: 1,
  draftBy: null,
  draftAt: null,
  alerts: 0,
  told: 0,
  read: 0,
  withheld: 0,
  failed: 0,
  offer: null,
  ask: null,
  waits: 0,
  acknowledged: 0,
  lastAt: null,
  caught: [],
  mayEdit: true,
  faults: [],
  ...more,
});

/** The name of a part of a sentence: what it is, and then what it says. */
export const part = (label: string): RegExp => new RegExp(`^${label.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}:\\s?`);

interface Drawing {
  me?: Partial<Me>;
  directory?: Partial<DirectoryPage>;
  /** The page's address. */
  at?: string;
}

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  globalThis.localStorage?.clear();
});

/** Draws a part as it stands in the application, for somebody to press and type in. */
export function draw(node: ReactNode, { me, directory, at = '/' }: Drawing = {}) {
  // The document of a test has no window to scroll in.
  Element.prototype.scrollIntoView ??= () => undefined;
  Element.prototype.scrollTo ??= () => undefined;
  globalThis.CSS ??= { escape: (id: string) => id } as typeof CSS;
  speak(me?.locale ?? ME.locale);
  const client = new QueryClient({ defaultOptions: { queries: { retry: false }, mutations: { retry: false } } });
  const drawn = render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[at]}>
        <ViewerProvider me={{ ...ME, ...me }} directory={{ ...DIRECTORY, ...directory }}>
          <Notices>{node}</Notices>
        </ViewerProvider>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return { ...drawn, client, user: userEvent.setup() };
}

/** Keeps a value as its page would, and tells of each new one. */
export function Keeper<T>({
  first,
  onChange,
  children,
}: {
  first: T;
  onChange?: (value: T) => void;
  children: (value: T, set: (value: T) => void) => ReactNode;
}) {
  const [value, setValue] = useState(first);
  return children(value, (next) => {
    setValue(next);
    onChange?.(next);
  });
}
