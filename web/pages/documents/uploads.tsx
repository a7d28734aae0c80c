import { type DragEvent, useRef, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { LIMITS } from '../../../contract/limits.ts';
import type { HandedIn } from '../../../contract/wire/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { ProblemNote, refusalWords, useNotice, useViewer } from '../../parts/index.ts';
import { handIn, useAddDocuments } from '../../queries/index.ts';
import { bytes } from '../../words/index.ts';
import { t } from '../../words/documents.ts';
import { pathOf } from './document-acts.tsx';

/** A file on its way. */
interface Sent {
  key: number;
  name: string;
  size: number;
  /** How much of it has gone, from 0 to 1. */
  share: number;
  given: HandedIn | null;
  fault: string | null;
  stop: AbortController;
}

let counted = 0;

/** Hands files in, each with how far it is; what has come whole becomes documents of a folder by one press. */
function useUploads(source: string) {
  const [sent, setSent] = useState<readonly Sent[]>([]);
  const put = (key: number, part: Partial<Sent>) =>
    setSent((now) => now.map((one) => (one.key === key ? { ...one, ...part } : one)));
  const begin = (files: readonly File[]) => {
    for (const file of files) {
      const stop = new AbortController();
      counted += 1;
      const key = counted;
      const one: Sent = { key, name: file.name, size: file.size, share: 0, given: null, fault: null, stop };
      if (file.size > LIMITS.fileBytes) {
        setSent((now) => [...now, { ...one, fault: t('tooLarge', { most: bytes(LIMITS.fileBytes) }) }]);
        continue;
      }
      setSent((now) => [...now, one]);
      handIn(source, file, { onProgress: (share) => put(key, { share }), signal: stop.signal }).then(
        (given) => put(key, { given, share: 1 }),
        (error: unknown) => put(key, { fault: stop.signal.aborted ? t('stopped') : refusalWords(error) }),
      );
    }
  };
  const take = (key: number) => {
    sent.find((one) => one.key === key)?.stop.abort();
    setSent((now) => now.filter((one) => one.key !== key));
  };
  return { sent, begin, take, clear: () => setSent([]) };
}

/** Where files are dropped or chosen, and become documents: of several one batch. */
export function Uploads({ source, onDone }: { source: Source; onDone: () => void }) {
  const { directory } = useViewer();
  const notice = useNotice();
  const uploads = useUploads(source.id);
  const add = useAddDocuments(source.id);
  const [isOver, setOver] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  const places = directory.folders.filter((folder) => folder.source === source.id);
  const [folder, setFolder] = useState(places[0]?.id ?? '');
  const whole = uploads.sent.flatMap(({ given }) => given ?? []);
  const isUnderWay = uploads.sent.some(({ given, fault }) => given === null && fault === null);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    uploads.begin([...event.dataTransfer.files]);
  };
  const save = () =>
    add.mutate(
      { folder, files: whole },
      {
        onSuccess: (made) => {
          notice({ words: t('areThere', { documents: made.length }) });
          uploads.clear();
          onDone();
        },
      },
    );
  return (
    <section
      className={`uploads${isOver ? ' is-over' : ''}`}
      aria-label={t('newDocuments')}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <p>
        {t('dropFilesHere')}{' '}
        <Button variant="link" onClick={() => chooser.current?.click()}>
          {t('chooseThem')}
        </Button>{' '}
        <span className="quiet small">{t('atMostEach', { most: bytes(LIMITS.fileBytes) })}</span>
      </p>
      <input
        ref={chooser}
        type="file"
        multiple
        hidden
        aria-label={t('filesToHandIn')}
        onChange={(event) => {
          uploads.begin([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
      <ul className="plain-list">
        {uploads.sent.map((one) => (
          <SentLine key={one.key} sent={one} onTake={() => uploads.take(one.key)} />
        ))}
      </ul>
      {add.error && <ProblemNote error={add.error} />}
      <div className="acts">
        <Form.Select
          aria-label={t('intoWhichFolder')}
          value={folder}
          onChange={(event) => setFolder(event.target.value)}
        >
          {places.map((one) => (
            <option key={one.id} value={one.id}>
              {pathOf(one.id, places)}
            </option>
          ))}
        </Form.Select>
        <Button disabled={whole.length === 0 || isUnderWay || add.isPending} onClick={save}>
          {t('putThemThere', { documents: whole.length })}
        </Button>
        <Button
          variant="quiet"
          onClick={() => {
            for (const one of uploads.sent) one.stop.abort();
            onDone();
          }}
        >
          {t('leaveIt')}
        </Button>
      </div>
    </section>
  );
}

function SentLine({ sent: { name, size, share, given, fault }, onTake }: { sent: Sent; onTake: () => void }) {
  const isUnderWay = given === null && fault === null;
  return (
    <li>
      <strong className="wrap-anywhere">{given?.name ?? name}</strong>{' '}
      <span className="quiet small">{bytes(size)}</span>
      {isUnderWay && <progress aria-label={t('howFar', { name })} max={1} value={share} />}
      {fault && (
        <span className="fault small" role="alert">
          {fault}
        </span>
      )}
      <Button variant="link" size="sm" onClick={onTake}>
        {isUnderWay ? t('stopIt') : t('leaveOut')}
      </Button>
    </li>
  );
}
