import { createContext, type ReactNode, useContext, useMemo } from 'react';
import { HIDDEN_ITEM } from '../../contract/hidden.ts';
import type { DirectoryPage, Me } from '../../contract/wire/index.ts';
import type { Folder, Group } from '../../core/people/index.ts';
import { addDays, dateIn } from '../../core/time/index.ts';
import type { Names, Source } from '../../core/values/index.ts';
import { t } from '../words/parts.ts';

/** What every part needs to word things for whoever reads: who that is, and the names of all ids. */
export interface Viewer {
  me: Me;
  directory: DirectoryPage;
  person(id: string): string;
  sources: ReadonlyMap<string, Source>;
  source(id: string): Source | undefined;
  group(id: string): Group | undefined;
  folder(id: string): Folder | undefined;
  names(items?: Record<string, string>): Names;
}

const Context = createContext<Viewer | null>(null);

export function ViewerProvider({ me, directory, children }: { me: Me; directory: DirectoryPage; children: ReactNode }) {
  const viewer = useMemo<Viewer>(() => {
    const people = new Map([...directory.contacts, ...directory.people].map((one) => [one.id, one.name]));
    const person = (id: string) => people.get(id) ?? id.replace(/^system:/, '');
    const sources = new Map(directory.sources.map((one) => [one.id, one]));
    return {
      me,
      directory,
      person,
      sources,
      source: (id) => sources.get(id),
      group: (id) => directory.groups.find((one) => one.id === id),
      folder: (id) => directory.folders.find((one) => one.id === id),
      names: (items = {}) => ({
        person,
        item: (id) => (id === HIDDEN_ITEM ? t('oneYouMayNotRead') : (items[id] ?? id)),
      }),
    };
  }, [me, directory]);
  return <Context.Provider value={viewer}>{children}</Context.Provider>;
}

export function useViewer(): Viewer {
  const viewer = useContext(Context);
  if (!viewer) throw new Error('a part that words things stands outside of ViewerProvider');
  return viewer;
}

/** A day as its heading says it: *Today, Wednesday 4 March*, *Yesterday*, else weekday and date. */
export function dayWords(instant: number, now: number, { zone, locale }: { zone: string; locale: string }): string {
  const day = dateIn(instant, zone);
  const today = dateIn(now, zone);
  const year = day.slice(0, 4) === today.slice(0, 4) ? undefined : ('numeric' as const);
  const words = new Intl.DateTimeFormat(locale, {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    year,
    timeZone: zone,
  })
    .format(instant)
    .replace(',', '');
  if (day === today) return t('today', { words });
  return day === addDays(today, -1) ? t('yesterday', { words }) : words;
}
