import { useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearchParams } from 'react-router';
import type { Sample } from '../../../../contract/wire/index.ts';
import { Empty, Loaded, useViewer } from '../../../parts/index.ts';
import { pastChangeQuery, useRule } from '../../../queries/index.ts';
import { carriedOver } from '../../../../core/rules/index.ts';
import { Bench } from './bench.tsx';
import { newRule, ruleFrom, ruleLike } from './rule-starts.ts';
import { t } from '../../../words/rule.ts';

/** One rule: its definition as sentences, what it would cost, and its way live. */
export function RulePage() {
  const { rule: id = 'new' } = useParams();
  return id === 'new' ? <NewRule /> : <KnownRule key={id} id={id} />;
}

/** A new rule starts empty, from a filtered view, from a past change, from another rule, or from one item. */
function NewRule() {
  const [search] = useSearchParams();
  const copy = search.get('copy');
  const like = search.get('like');
  if (copy) return <CopiedRule id={copy} onto={search.get('onto')} />;
  if (like) return <RuleLikeChange source={search.get('source') ?? ''} change={like} />;
  return <EmptyRule />;
}

function EmptyRule() {
  const [search] = useSearchParams();
  const viewer = useViewer();
  const source = viewer.source(search.get('source') ?? '') ?? viewer.directory.sources[0];
  if (!source)
    return (
      <main className="page">
        <Empty title={t('noSourceYouMayRead')}>
          <p>{t('aRuleLooksAtA')}</p>
        </Empty>
      </main>
    );
  const first = ruleFrom(newRule(viewer, source.id), {
    where: search.get('where'),
    items: search.getAll('item'),
    under: search.get('under'),
  });
  return <Bench key={source.id} row={null} first={first} mayStart={first.scope.items.length === 0} />;
}

/** A rule to begin with another's, at the same sources or at one like its own. */
function CopiedRule({ id, onto }: { id: string; onto: string | null }) {
  const viewer = useViewer();
  const rule = useRule(id);
  return (
    <Loaded query={rule} what={t('theRule')} isPage>
      {({ draft, live }) => {
        const document = draft ?? live;
        if (!document) return null;
        const [from, to] = [viewer.source(document.scope.sources[0] ?? ''), viewer.source(onto ?? '')];
        const first = from && to ? carriedOver(document, from, to) : document;
        const name = from && to ? `${document.name}, ${to.name}` : t('aCopy', { name: document.name });
        return <Bench row={null} first={{ ...first, id: 'new', name, owner: viewer.me.id }} mayStart={false} />;
      }}
    </Loaded>
  );
}

function RuleLikeChange({ source, change }: { source: string; change: string }) {
  const viewer = useViewer();
  const sample = useQuery(pastChangeQuery(source, change));
  return (
    <Loaded query={sample} what={t('theChange')} isPage>
      {(known: Sample) => (
        <Bench
          row={null}
          first={ruleLike(newRule(viewer, known.source), known, viewer.source(known.source))}
          mayStart={false}
        />
      )}
    </Loaded>
  );
}

function KnownRule({ id }: { id: string }) {
  const rule = useRule(id);
  return (
    <Loaded query={rule} what={t('theRule')} isPage>
      {(row) => {
        const first = row.draft ?? row.live;
        return first ? (
          <Bench row={row} first={first} mayStart={false} />
        ) : (
          <main className="page">
            <Empty title={t('thisRuleHasNoDocument')}>
              <Link to="/rules">{t('allRules')}</Link>
            </Empty>
          </main>
        );
      }}
    </Loaded>
  );
}
