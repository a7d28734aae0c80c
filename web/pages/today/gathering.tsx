import { Link } from 'react-router';
import { itemPath, kindWords } from '../../../core/messages/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import {
  ChangeMark,
  Loaded,
  NowStands,
  Sheet,
  ShownFields,
  shortTime,
  UrgencyBar,
  useViewer,
  Why,
} from '../../parts/index.ts';
import { useGathering } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/today.ts';

/** A digest that still gathers, read before its time: it goes out then all the same, with what comes until then. */
export default function Gathering({ at, onClose }: { at: string; onClose: () => void }) {
  const { me } = useViewer();
  const gathering = useGathering(at);
  const time = shortTime(instantOf(at), instantOf(me.now), me);
  return (
    <Sheet label={t('whatGathers')} name={at} onClose={onClose}>
      <h2>{t('gathersFor', { time })}</h2>
      <p className="quiet small">{t('itGoesOutThen', { time })}</p>
      <Loaded query={gathering} what={t('whatGathers')} rows={4}>
        {(entries) =>
          entries.length === 0 ? (
            <p className="quiet">{t('nothingGathers')}</p>
          ) : (
            <ol className="plain-list gathering">
              {entries.map((entry) => (
                <li key={entry.item.id}>
                  <UrgencyBar urgency={entry.urgency} />
                  <div>
                    <strong>
                      <Link to={itemPath(entry.item.id)}>{entry.item.title}</Link>
                    </strong>{' '}
                    <span className="quiet small">{entry.item.sourceName}</span>
                    <div>
                      {entry.fields.length > 0 ? (
                        <ChangeMark fields={entry.fields} />
                      ) : (
                        <mark>{entry.kind === null ? entry.notes.join(', ') : kindWords(entry.kind, phrases())}</mark>
                      )}
                    </div>
                    <NowStands entry={entry} />
                    <ShownFields entry={entry} />
                    <Why sentences={entry.why} />
                  </div>
                </li>
              ))}
            </ol>
          )
        }
      </Loaded>
    </Sheet>
  );
}
