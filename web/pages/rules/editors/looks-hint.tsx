import { Link } from 'react-router';
import type { DirectoryPage } from '../../../../contract/wire/index.ts';
import { notedBy } from '../../../../core/documents/index.ts';
import { isBelow, type Rule } from '../../../../core/rules/index.ts';
import { useViewer } from '../../../parts/index.ts';
import { t } from '../../../words/access.ts';
import { phrases } from '../../../words/index.ts';
import { pathOf } from '../../documents/folder-chip.tsx';

type Folders = DirectoryPage['folders'];

/** The folders in what a rule looks at in which it is noted who opens a document, the highest of each branch alone. */
export function looksNotedFor({ scope }: Pick<Rule, 'scope'>, folders: Folders): Folders {
  const known = new Map(folders.map((one) => [one.id, one]));
  const under = new Set(scope.under);
  const wide = folders.filter(({ id, source }) => scope.sources.includes(source) && notedBy(id, known) !== null);
  const inScope = scope.under.length === 0 ? wide : wide.filter(({ id }) => isBelow(id, under, { folders: known }));
  const ids = new Set(inScope.map(({ id }) => id));
  return inScope.filter(({ parent }) => parent === null || !ids.has(parent));
}

/** Where a rule waits for documents to be opened: in which folders that is noted at all. */
export function LooksHint({ rule }: { rule: Rule }) {
  const { directory } = useViewer();
  const noted = looksNotedFor(rule, directory.folders);
  const [source] = rule.scope.sources;
  if (noted.length > 0)
    return t('looksNotedIn', { folders: phrases().and(noted.map(({ id }) => pathOf(id, directory.folders))) });
  return (
    <>
      <span className="fault">{t('noLooksThere')}</span>{' '}
      {source && <Link to={`/sources/${encodeURIComponent(source)}?see=rights`}>{t('whoMay')}</Link>}
    </>
  );
}
