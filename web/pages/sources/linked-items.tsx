import { Link } from 'react-router';
import { itemPath } from '../../../core/messages/index.ts';
import { type Field, isLinkType, type Source } from '../../../core/values/index.ts';
import { useViewer } from '../../parts/index.ts';
import { useItemsWhere } from '../../queries/index.ts';
import { t } from '../../words/sources.ts';

/** So many of them are named. */
const MOST = 5;

/** What names an item in a field of its own: by source and field, as far as one may read it. */
export function LinkedItems({ item, source }: { item: string; source: Source }) {
  const { directory } = useViewer();
  const ways = directory.sources.flatMap((from) =>
    from.fields.filter((field) => isLinkType(field.type) && field.to === source.id).map((field) => ({ from, field })),
  );
  return ways.map(({ from, field }) => (
    <LinkedFrom key={`${from.id} ${field.id}`} item={item} from={from} field={field} />
  ));
}

function LinkedFrom({ item, from, field }: { item: string; from: Source; field: Field }) {
  const op = field.type === 'link' ? 'is' : 'contains';
  const where = JSON.stringify({ field: field.id, op, value: item });
  const { data } = useItemsWhere(from.id, where);
  if (!data || data.total === 0) return null;
  const all = new URLSearchParams({ where });
  return (
    <section>
      <h3>{t('linkedFrom', { source: from.name, field: field.name })}</h3>
      <ul className="plain-list linked-items">
        {data.items.slice(0, MOST).map((one) => (
          <li key={one.id}>
            <Link to={itemPath(one.id)}>{one.title}</Link>
          </li>
        ))}
      </ul>
      {data.total > MOST && (
        <Link className="small" to={`/sources/${encodeURIComponent(from.id)}?${all}`}>
          {t('allLinked', { total: data.total })}
        </Link>
      )}
    </section>
  );
}
