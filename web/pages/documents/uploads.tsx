import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { LIMITS } from '../../../contract/limits.ts';
import type { HandedIn } from '../../../contract/wire/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { FileDrop, ProblemNote, refusalWords, useNotice, useViewer } from '../../parts/index.ts';
import { handIn, type Placed, useAddDocuments, useNamesakes } from '../../queries/index.ts';
import { bytes } from '../../words/index.ts';
import { t } from '../../words/documents.ts';
import { pathOf } from './folder-chip.tsx';

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
  /** It becomes a second document of its name, although there is one. */
  isSecond: boolean;
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
      const one: Sent = {
        key,
        name: file.name,
        size: file.size,
        share: 0,
        given: null,
        fault: null,
        stop,
        isSecond: false,
      };
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
  const placed = (given: readonly HandedIn[]) =>
    setSent((now) => now.filter((one) => one.given === null || !given.includes(one.given)));
  return { sent, put, begin, take, placed };
}

/** Where files are dropped or chosen, and become documents: of several one batch. */
export function Uploads({ source, onDone }: { source: Source; onDone: () => void }) {
  const { directory } = useViewer();
  const notice = useNotice();
  const uploads = useUploads(source.id);
  const add = useAddDocuments(source.id, uploads.placed);
  const places = directory.folders.filter((folder) => folder.source === source.id);
  const [folder, setFolder] = useState(places[0]?.id ?? '');
  const namesakes = useNamesakes(
    source,
    folder,
    uploads.sent.flatMap(({ given }) => given?.name ?? []),
  );
  const whole = uploads.sent.flatMap(({ given, isSecond }): Placed[] =>
    given ? [{ given, item: isSecond ? null : (namesakes.get(given.name) ?? null) }] : [],
  );
  const isUnderWay = uploads.sent.some(({ given, fault }) => given === null && fault === null);
  const save = () =>
    add.mutate(
      { folder, files: whole },
      {
        onSuccess: () => {
          notice({ words: t('areThere', { documents: whole.length }) });
          onDone();
        },
      },
    );
  return (
    <FileDrop
      label={t('newDocuments')}
      words={t('dropFilesHere')}
      choose={t('chooseThem')}
      hint={t('atMostEach', { most: bytes(LIMITS.fileBytes) })}
      isMany
      onFiles={uploads.begin}
    >
      <ul className="plain-list">
        {uploads.sent.map((one) => (
          <SentLine
            key={one.key}
            sent={one}
            hasNamesake={one.given !== null && namesakes.has(one.given.name)}
            onSecond={(isSecond) => uploads.put(one.key, { isSecond })}
            onTake={() => uploads.take(one.key)}
          />
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
    </FileDrop>
  );
}

interface SentLineProps {
  sent: Sent;
  /** There is a document of its name in the folder. */
  hasNamesake: boolean;
  onSecond: (isSecond: boolean) => void;
  onTake: () => void;
}

function SentLine({ sent, hasNamesake, onSecond, onTake }: SentLineProps) {
  const { name, size, share, given, fault, isSecond } = sent;
  const isUnderWay = given === null && fault === null;
  return (
    <li>
      <strong className="wrap-anywhere">{given?.name ?? name}</strong>{' '}
      <span className="quiet small">{bytes(size)}</span>
      {isUnderWay && <progress aria-label={t('howFar', { name })} max={1} value={share} />}
      {hasNamesake && (
        <Form.Select
          size="sm"
          aria-label={t('oneOfThatName', { name })}
          value={isSecond ? 'second' : 'version'}
          onChange={(event) => onSecond(event.target.value === 'second')}
        >
          <option value="version">{t('asItsNewVersion')}</option>
          <option value="second">{t('asASecond')}</option>
        </Form.Select>
      )}
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
