import { lazy, Suspense } from 'react';
import { Loaded, Waiting } from '../../parts/index.ts';
import { fileAddress, useDocumentText } from '../../queries/index.ts';
import { t } from '../../words/documents.ts';

const MarkdownShown = lazy(() => import('./markdown-shown.tsx'));
const PdfShown = lazy(() => import('./pdf-shown.tsx'));
const TableShown = lazy(() => import('./table-shown.tsx'));

/** How contents of a kind can be looked at in place. */
export type Look = 'text' | 'markdown' | 'table' | 'image' | 'pdf' | 'none';

const IMAGES = ['image/png', 'image/jpeg', 'image/gif', 'image/webp', 'image/avif', 'image/bmp'];

const WORKBOOK = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** How contents of a media type can be looked at. What could run something, as a drawing in SVG or a web page can, is shown as its text. */
export function lookOf(mediaType: string): Look {
  if (mediaType === 'text/markdown') return 'markdown';
  if (mediaType === 'text/csv' || mediaType === WORKBOOK) return 'table';
  if (mediaType.startsWith('text/') || mediaType === 'application/json' || mediaType.endsWith('xml')) return 'text';
  if (IMAGES.includes(mediaType)) return 'image';
  return mediaType === 'application/pdf' ? 'pdf' : 'none';
}

interface PreviewProps {
  item: string;
  number: number;
  name: string;
  mediaType: string;
}

/** What a version of a document holds, where that can be looked at in place. */
export function Preview({ item, number, name, mediaType }: PreviewProps) {
  const look = lookOf(mediaType);
  switch (look) {
    case 'image':
      return <img className="document-image" src={fileAddress(item, number)} alt={name} />;
    case 'pdf':
      return (
        <Suspense fallback={<Waiting what={name} rows={4} />}>
          <PdfShown address={fileAddress(item, number)} name={name} />
        </Suspense>
      );
    case 'none':
      return <p className="quiet">{t('cannotBeLookedAt')}</p>;
    case 'text':
    case 'markdown':
    case 'table':
      return <TextPreview item={item} number={number} name={name} look={look} />;
    default:
      return look satisfies never;
  }
}

function TextPreview({
  item,
  number,
  name,
  look,
}: {
  item: string;
  number: number;
  name: string;
  look: 'text' | 'markdown' | 'table';
}) {
  const text = useDocumentText(item, number);
  return (
    <Loaded query={text} what={name} rows={4}>
      {(shown) => {
        if (look === 'text') return <pre className="document-text">{shown}</pre>;
        return (
          <Suspense fallback={<Waiting what={name} rows={4} />}>
            {look === 'markdown' ? <MarkdownShown text={shown} /> : <TableShown text={shown} name={name} />}
          </Suspense>
        );
      }}
    </Loaded>
  );
}
