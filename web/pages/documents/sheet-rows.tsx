import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { faultWords } from '../../../contract/words/faults.ts';
import type { SheetLooked } from '../../../contract/wire/index.ts';
import { sourcePath } from '../../../core/messages/index.ts';
import { ProblemNote, useNotice } from '../../parts/index.ts';
import { useSheet, useWatchSheet } from '../../queries/index.ts';
import { locale } from '../../words/index.ts';
import { t } from '../../words/tables.ts';

type Watched = NonNullable<SheetLooked['watched']>;
type Table = NonNullable<SheetLooked['table']>;

/** The rows of a document that is a table: watched, each an item of its own, or offered to be. */
export function SheetRows({ item, mayChange }: { item: string; mayChange: boolean }) {
  const [sheet, setSheet] = useState<string | null>(null);
  const looked = useSheet(item, sheet).data;
  const watch = useWatchSheet(item);
  if (!looked || (!looked.table && !looked.watched)) return null;
  const { table, watched } = looked;
  return (
    <section className="sheet-rows">
      <h3>{t('rowsOfIt')}</h3>
      {watched?.isWatching ? (
        <WatchedRows watched={watched} />
      ) : (
        <p className="quiet small">{watched ? t('rowsLeft') : t('rowsCanBeWatched')}</p>
      )}
      {watch.error && <ProblemNote error={watch.error} />}
      {mayChange && !watched?.isWatching && table && (
        <Offer
          table={table}
          sheet={sheet}
          before={watched?.key}
          onSheet={setSheet}
          isPending={watch.isPending}
          onWatch={(key) => watch.mutate({ key, sheet })}
        />
      )}
      {watched && (
        <div className="acts">
          <Link className="btn btn-outline-primary btn-sm" to={sourcePath(watched.source)}>
            {t('seeTheRows')}
          </Link>
          {mayChange && watched.isWatching && <Leave watch={watch} watched={watched} />}
        </div>
      )}
    </section>
  );
}

function Leave({ watch, watched }: { watch: ReturnType<typeof useWatchSheet>; watched: Watched }) {
  const notice = useNotice();
  const { key, sheet } = watched;
  return (
    <Button
      variant="quiet"
      size="sm"
      disabled={watch.isPending}
      onClick={() =>
        watch.mutate(null, {
          onSuccess: () => notice({ words: t('rowsLeftNow'), undo: () => watch.mutate({ key, sheet }) }),
        })
      }
    >
      {t('leaveTheRows')}
    </Button>
  );
}

/** By which column rows are told apart, of which version they are, and what of it could not be taken. */
const WatchedRows = ({ watched }: { watched: Watched }) => (
  <>
    <p className="small">{t('rowsAreWatched', { key: watched.key, number: watched.number })}</p>
    {watched.faults.length > 0 && (
      <ul className="plain-list small">
        {watched.faults.map((fault) => (
          <li key={`${fault.line} ${fault.column} ${fault.code}`} className="fault">
            {fault.line !== null && <>{t('line', { line: fault.line })}: </>}
            {faultWords(fault, locale())}
          </li>
        ))}
      </ul>
    )}
  </>
);

interface OfferProps {
  table: Table;
  sheet: string | null;
  /** The column that told rows apart before. */
  before: string | undefined;
  onSheet: (sheet: string) => void;
  isPending: boolean;
  onWatch: (key: string) => void;
}

function Offer({ table, sheet, before, onSheet, isPending, onWatch }: OfferProps) {
  const first = table.columns.find(({ tellsApart }) => tellsApart) ?? table.columns[0];
  const [chosen, setChosen] = useState<string | null>(null);
  const key = table.columns.find(({ name }) => name === (chosen ?? before)) ?? first;
  if (!key) return null;
  return (
    <>
      {table.sheets.length > 1 && (
        <p className="mapped-key small">
          <label htmlFor="sheet-of-document">{t('whichSheet')}</label>
          <Form.Select
            id="sheet-of-document"
            size="sm"
            value={sheet ?? table.sheets[0]}
            onChange={(event) => onSheet(event.target.value)}
          >
            {table.sheets.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </Form.Select>
        </p>
      )}
      <p className="mapped-key small">
        <label htmlFor="sheet-key">{t('toldApartBy')}</label>
        <Form.Select id="sheet-key" size="sm" value={key.name} onChange={(event) => setChosen(event.target.value)}>
          {table.columns.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </Form.Select>
      </p>
      {!key.tellsApart && <p className="fault small">{t('notApart', { column: key.name })}</p>}
      <div className="acts">
        <Button size="sm" variant="outline-primary" disabled={isPending} onClick={() => onWatch(key.name)}>
          {t('watchTheRows', { rows: table.rows })}
        </Button>
      </div>
    </>
  );
}
