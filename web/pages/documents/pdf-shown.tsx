import { GlobalWorkerOptions, getDocument, type PDFDocumentProxy } from 'pdfjs-dist';
import workerAddress from 'pdfjs-dist/build/pdf.worker.min.mjs?url';
import { useEffect, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Waiting } from '../../parts/index.ts';
import { t } from '../../words/documents.ts';

GlobalWorkerOptions.workerSrc = workerAddress;

/** How wide a page is drawn, in CSS pixels. */
const WIDTH = 560;

/** A document in PDF, a page at a time, drawn here: nothing in it runs. */
export default function PdfShown({ address, name }: { address: string; name: string }) {
  const [pdf, setPdf] = useState<PDFDocumentProxy | null>(null);
  const [isBroken, setBroken] = useState(false);
  const [page, setPage] = useState(1);
  useEffect(() => {
    const loading = getDocument({ url: address, isEvalSupported: false, enableXfa: false });
    loading.promise.then(setPdf, () => setBroken(true));
    return () => void loading.destroy();
  }, [address]);
  if (isBroken) return <p className="quiet">{t('cannotBeLookedAt')}</p>;
  if (!pdf) return <Waiting what={name} rows={4} />;
  return (
    <div className="document-pdf">
      <Page pdf={pdf} page={page} name={name} />
      {pdf.numPages > 1 && (
        <p className="acts">
          <Button variant="quiet" size="sm" disabled={page === 1} onClick={() => setPage(page - 1)}>
            {t('pageBefore')}
          </Button>
          <span className="quiet">{t('pageOf', { page, pages: pdf.numPages })}</span>
          <Button variant="quiet" size="sm" disabled={page === pdf.numPages} onClick={() => setPage(page + 1)}>
            {t('pageAfter')}
          </Button>
        </p>
      )}
    </div>
  );
}

function Page({ pdf, page, name }: { pdf: PDFDocumentProxy; page: number; name: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [words, setWords] = useState('');
  useEffect(() => {
    let isGone = false;
    void (async () => {
      const shown = await pdf.getPage(page);
      const { items } = await shown.getTextContent();
      const target = canvas.current;
      if (isGone || !target) return;
      setWords(items.map((item) => ('str' in item ? item.str : '')).join(' '));
      const scale = (WIDTH / shown.getViewport({ scale: 1 }).width) * devicePixelRatio;
      const viewport = shown.getViewport({ scale });
      target.width = viewport.width;
      target.height = viewport.height;
      await shown.render({ canvas: target, viewport }).promise.catch(() => undefined);
    })();
    return () => {
      isGone = true;
    };
  }, [pdf, page]);
  return (
    <>
      <canvas ref={canvas} role="img" aria-label={t('pageOfNamed', { name, page })} />
      <p className="visually-hidden">{words}</p>
    </>
  );
}
