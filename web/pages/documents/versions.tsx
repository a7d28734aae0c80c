import { lazy, Suspense, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { DocumentVersionRow } from '../../../contract/wire/index.ts';
import { Loaded, ProblemNote, Time, useNotice, useViewer, Waiting } from '../../parts/index.ts';
import { fileAddress, useAddVersion, useDocumentVersions } from '../../queries/index.ts';
import { bytes } from '../../words/index.ts';
import { t } from '../../words/documents.ts';
import { lookOf, Preview } from './preview.tsx';

const Compare = lazy(() => import('./compare.tsx'));

type Open = { number: number; see: 'whole' | 'changes' } | null;

/** A document's versions, the newest first: each looked at, compared with the one before, downloaded and brought back. */
export function Versions({ item, source, mayAdd }: { item: string; source: string; mayAdd: boolean }) {
  const versions = useDocumentVersions(item);
  const add = useAddVersion(source, item);
  const notice = useNotice();
  const [open, setOpen] = useState<Open>(null);
  const file = useRef<HTMLInputElement>(null);
  return (
    <section className="document-versions">
      <h3>{t('versions')}</h3>
      <Loaded query={versions} what={t('versions')} rows={2}>
        {(list) => (
          <ul className="plain-list">
            {list.map((version, at) => (
              <VersionLine
                key={version.number}
                item={item}
                version={version}
                before={list[at + 1]}
                open={open?.number === version.number ? open.see : null}
                onOpen={(see) => setOpen(see && { number: version.number, see })}
                onBack={
                  mayAdd && at > 0
                    ? () =>
                        add.mutate(
                          { number: version.number },
                          { onSuccess: () => notice({ words: t('isBack', { number: version.number }) }) },
                        )
                    : null
                }
              />
            ))}
          </ul>
        )}
      </Loaded>
      {add.error && <ProblemNote error={add.error} />}
      {mayAdd && (
        <>
          <input
            ref={file}
            type="file"
            hidden
            aria-label={t('fileOfNewVersion')}
            onChange={(event) => {
              const [given] = event.target.files ?? [];
              event.target.value = '';
              if (given) add.mutate({ file: given }, { onSuccess: () => notice({ words: t('newVersionIsThere') }) });
            }}
          />
          <Button variant="outline-primary" size="sm" disabled={add.isPending} onClick={() => file.current?.click()}>
            {add.isPending ? t('handingIn') : t('newVersion')}
          </Button>
        </>
      )}
    </section>
  );
}

interface LineProps {
  item: string;
  version: DocumentVersionRow;
  before: DocumentVersionRow | undefined;
  open: 'whole' | 'changes' | null;
  onOpen: (see: 'whole' | 'changes' | null) => void;
  onBack: (() => void) | null;
}

function VersionLine({ item, version, before, open, onOpen, onBack }: LineProps) {
  const { person } = useViewer();
  const look = lookOf(version.mediaType);
  const isText = (one: DocumentVersionRow) => ['text', 'markdown', 'table'].includes(lookOf(one.mediaType));
  const toggle = (see: 'whole' | 'changes', words: string) => (
    <Button variant="link" size="sm" aria-expanded={open === see} onClick={() => onOpen(open === see ? null : see)}>
      {words}
    </Button>
  );
  return (
    <li>
      <span>
        <strong>{version.number}</strong> <Time at={version.at} />{' '}
        <span className="quiet small">
          {t('byWhomHowLarge', { person: person(version.by), size: bytes(version.size) })}
        </span>
      </span>
      <span className="acts">
        {look !== 'none' && toggle('whole', t('lookAtIt'))}
        {before && isText(version) && isText(before) && toggle('changes', t('whatChangedInIt'))}
        <a className="btn btn-link btn-sm" href={fileAddress(item, version.number, 'download')} download>
          {t('download')}
        </a>
        {onBack && (
          <Button variant="link" size="sm" onClick={onBack}>
            {t('bringBack')}
          </Button>
        )}
      </span>
      {open === 'whole' && (
        <Preview item={item} number={version.number} name={version.name} mediaType={version.mediaType} />
      )}
      {open === 'changes' && before && (
        <Suspense fallback={<Waiting what={version.name} rows={3} />}>
          <Compare item={item} from={before.number} to={version.number} />
        </Suspense>
      )}
    </li>
  );
}
