import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link, useNavigate, useParams } from 'react-router';
import { LIMITS } from '../../../contract/limits.ts';
import type { Source } from '../../../core/values/index.ts';
import {
  Empty,
  forgetDraft,
  FileDrop,
  Loaded,
  ProblemNote,
  readDraft,
  TABLE_FILES,
  useDraftKey,
  useNotice,
  useViewer,
  writeDraft,
} from '../../parts/index.ts';
import {
  type TableFile,
  type TableMapping,
  useLookAtTable,
  usePlannedTable,
  useTakeProgress,
  useTakeTable,
} from '../../queries/index.ts';
import { bytes } from '../../words/index.ts';
import { t as sources } from '../../words/sources.ts';
import { t } from '../../words/tables.ts';
import { ColumnsMapped } from './columns-mapped.tsx';
import { PlannedRows } from './planned-rows.tsx';

/** Takes rows of a file into a source: the file, its columns, what would happen, and all of it as one batch. */
export function RowsInPage() {
  const { source: id = '' } = useParams();
  const { source: sourceOf } = useViewer();
  const source = sourceOf(id);
  if (!source || source.kind === 'folders')
    return (
      <main className="page">
        <Empty title={sources('nothingIsHereThatYou')}>
          <Link to="/sources">{sources('allSources')}</Link>
        </Empty>
      </main>
    );
  return <RowsIn key={id} source={source} />;
}

function RowsIn({ source }: { source: Source }) {
  const look = useLookAtTable(source.id);
  const [file, setFile] = useState<TableFile | null>(null);
  const open = (asked: Parameters<typeof look.mutate>[0]) => look.mutate(asked, { onSuccess: setFile });
  const name = look.variables && 'file' in look.variables ? look.variables.file.name : (file?.given.name ?? '');
  return (
    <main className="page">
      <p className="crumbs">
        <Link to="/sources">{sources('sources')}</Link> / <Link to={`/sources/${source.id}`}>{source.name}</Link>
      </p>
      <h1>{t('rowsFromAFile')}</h1>
      <p className="quiet">{t('intoSource', { source: source.name })}</p>
      <FileDrop
        label={t('fileOfRows')}
        words={file ? `${file.given.name}.` : t('dropAFileHere')}
        choose={file ? t('anotherFile') : t('chooseOne')}
        hint={
          file
            ? t('rowsIn', { rows: file.looked.rows })
            : t('whatFiles', { most: bytes(LIMITS.tableBytes), rows: LIMITS.tableRows })
        }
        accept={TABLE_FILES}
        onFiles={([one]) => one && open({ file: one })}
      >
        {look.isPending && <p role="status">{t('reading', { name })}</p>}
        {look.error && !look.isPending && <ProblemNote error={look.error} />}
        {file && file.looked.sheets.length > 1 && (
          <p className="small">
            <label htmlFor="which-sheet">{t('whichSheet')}</label>{' '}
            <Form.Select
              id="which-sheet"
              size="sm"
              value={file.sheet ?? file.looked.sheets[0]}
              onChange={(event) => open({ given: file.given, sheet: event.target.value })}
            >
              {file.looked.sheets.map((sheet) => (
                <option key={sheet}>{sheet}</option>
              ))}
            </Form.Select>
          </p>
        )}
      </FileDrop>
      {file && <FileTaken key={`${file.given.upload} ${file.sheet}`} source={source} file={file} />}
    </main>
  );
}

/** A file that has been looked at: its columns, what would happen, and the act. */
function FileTaken({ source, file }: { source: Source; file: TableFile }) {
  const { looked } = file;
  const { mapping, setMapping, forget } = useMapping(source, file);
  const planned = usePlannedTable(source.id, file, mapping);
  return (
    <>
      <h2 className="mt-4">{t('columns')}</h2>
      <ColumnsMapped source={source} looked={looked} mapping={mapping} onChange={setMapping} />
      <h2 className="mt-4">{t('whatWouldHappen')}</h2>
      <Loaded query={planned} what={file.given.name} rows={4}>
        {(plan) => (
          <>
            <PlannedRows planned={plan} source={source} />
            <Taking source={source} file={file} mapping={mapping} plan={plan} onTaken={forget} />
          </>
        )}
      </Loaded>
    </>
  );
}

/**
 * Which column goes where: as was chosen before for a file of these columns, kept in this browser, else as their names
 * have it.
 */
function useMapping(source: Source, { looked }: TableFile) {
  const key = useDraftKey(`rows-in.${source.id}`);
  const base = JSON.stringify(looked.columns.map(({ name }) => name));
  const guessed = { columns: looked.columns.map(({ field }) => field), key: looked.key };
  const [mapping, setMapping] = useState<TableMapping>(() => {
    const before = readDraft<TableMapping>(key);
    const isKnown = (id: string | null) => id === null || id === 'id' || source.fields.some((one) => one.id === id);
    return before?.base === base && before.value.columns.every(isKnown) ? before.value : guessed;
  });
  const choose = (next: TableMapping) => {
    writeDraft(key, { base, value: next });
    setMapping(next);
  };
  return { mapping, setMapping: choose, forget: () => forgetDraft(key) };
}

/** Why nothing of a file can be taken. */
function nothingWords(rows: number, refused: number): string {
  if (rows === 0) return t('noRows');
  return refused > 0 ? t('allRefused') : t('nothingChanges');
}

/** How far a file has come while it is taken in. */
function HowFar({ source, upload }: { source: Source; upload: string }) {
  const progress = useTakeProgress(source.id, upload, true).data?.progress;
  return (
    <p role="status">
      {progress ? t('takenSoFar', progress) : t('taking')}{' '}
      {progress && <progress aria-label={t('taking')} value={progress.done} max={progress.total} />}
    </p>
  );
}

interface TakingProps {
  source: Source;
  file: TableFile;
  mapping: TableMapping;
  onTaken: () => void;
  plan: { seal: string; counts: { new: number; changed: number; refused: number } };
}

function Taking({ source, file, mapping, plan, onTaken }: TakingProps) {
  const take = useTakeTable(source.id);
  const notice = useNotice();
  const navigate = useNavigate();
  const count = plan.counts.new + plan.counts.changed;
  const run = () =>
    take.mutate(
      { upload: file.given.upload, sheet: file.sheet, mapping, seal: plan.seal },
      {
        onSuccess: ({ counts }) => {
          onTaken();
          notice({ words: t('taken', { count: counts.new + counts.changed }) });
          void navigate(`/sources/${encodeURIComponent(source.id)}`);
        },
      },
    );
  return (
    <>
      {count === 0 && <p>{nothingWords(file.looked.rows, plan.counts.refused)}</p>}
      {take.error && <ProblemNote error={take.error} />}
      {take.isPending && <HowFar source={source} upload={file.given.upload} />}
      <div className="acts mt-3">
        {count > 0 && (
          <Button disabled={take.isPending} onClick={run}>
            {t('takeThem', { count })}
          </Button>
        )}
        <Link className="btn btn-quiet" to={`/sources/${encodeURIComponent(source.id)}`}>
          {t('leaveIt')}
        </Link>
      </div>
    </>
  );
}
