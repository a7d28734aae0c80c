import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { DirectoryPage, ItemPage } from '../../../contract/wire/index.ts';
import { notedBy } from '../../../core/documents/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { ProblemNote, Time, useNotice, useViewer } from '../../parts/index.ts';
import { useNoteLooks } from '../../queries/index.ts';
import { t } from '../../words/access.ts';
import { FolderChip, pathOf } from '../documents/folder-chip.tsx';

/** So many of those who opened a document are shown at first. */
const FIRST = 6;

const byId = (folders: DirectoryPage['folders']) => new Map(folders.map((one) => [one.id, one]));

/** In which folders it is noted who opens a document; stewards switch it on and off. */
export function LooksNoted({ source }: { source: Source }) {
  const { directory, me } = useViewer();
  const note = useNoteLooks(source.id);
  const notice = useNotice();
  const folders = directory.folders.filter((one) => one.source === source.id);
  if (source.kind !== 'folders' || folders.length === 0) return null;
  const mayChange = me.role === 'steward';
  const known = byId(folders);
  const noted = folders.filter((one) => one.notesLooks);
  const free = folders.filter((one) => notedBy(one.id, known) === null);
  const choose = (folder: string, isOn: boolean) =>
    note.mutate(
      { folder, isOn },
      {
        onSuccess: () =>
          notice({
            words: t(isOn ? 'isNoted' : 'isNotNoted', { folder: pathOf(folder, folders) }),
            undo: () => note.mutate({ folder, isOn: !isOn }),
          }),
      },
    );
  return (
    <section className="looks-noted">
      <h3>{t('whoOpens')}</h3>
      {noted.length === 0 && <p className="quiet">{t('notedNowhere')}</p>}
      <ul className="plain-list">
        {noted.map(({ id }) => (
          <li key={id}>
            {t.rich('notedIn', { folder: <strong>{pathOf(id, folders)}</strong> })}{' '}
            {mayChange && (
              <Button variant="link" size="sm" disabled={note.isPending} onClick={() => choose(id, false)}>
                {t('noteNoLonger')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {note.error && <ProblemNote error={note.error} />}
      {mayChange && free.length > 0 && (
        <FolderChip
          words={t('noteInFolder')}
          className="is-adding"
          question={t('whichFolder')}
          offered={free}
          onChoose={(folder) => choose(folder, true)}
        />
      )}
      {!mayChange && <p className="quiet small">{t('stewardsNote')}</p>}
    </section>
  );
}

/** Beside the name of a folder, that it is noted who opens what lies in it. */
export function NotedHere({ folder }: { folder: string }) {
  const { directory } = useViewer();
  return notedBy(folder, byId(directory.folders)) ? <span className="quiet small">{t('notedHere')}</span> : null;
}

/** Where a document is opened, that whoever does is noted. */
export const NotedWhoOpens = ({ looks }: Pick<ItemPage, 'looks'>) =>
  looks.isNoted && <p className="quiet small mt-2">{t('readersSeeIt')}</p>;

/** Who opened a document, and when last. */
export function WhoOpened({ looks: { isNoted, last } }: Pick<ItemPage, 'looks'>) {
  const { person } = useViewer();
  const [isWhole, setWhole] = useState(false);
  if (!isNoted && last.length === 0) return null;
  const shown = isWhole ? last : last.slice(0, FIRST);
  return (
    <section>
      <h3>{t('whoOpenedIt')}</h3>
      {!isNoted && <p className="quiet small">{t('notedNoLonger')}</p>}
      {last.length === 0 ? (
        <p className="quiet">{t('nobodyOpened')}</p>
      ) : (
        <ul className="plain-list trail">
          {shown.map((look) => (
            <li key={look.person}>
              <Time at={look.at} />
              <span>{person(look.person)}</span>
            </li>
          ))}
        </ul>
      )}
      {last.length > shown.length && (
        <Button variant="link" onClick={() => setWhole(true)}>
          {t('moreOpened', { count: last.length - shown.length })}
        </Button>
      )}
    </section>
  );
}
