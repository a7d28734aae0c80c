import { lazy, Suspense } from 'react';
import { t } from '../../words/parts.ts';
import type { WritingProps } from './writing.tsx';

const Editor = lazy(() => import('./writing.tsx'));

/** Where a rule's own words are written; it comes when somebody writes. */
export const Writing = (props: WritingProps) => (
  <Suspense fallback={<div className="form-control quiet">{t('loading', { what: props.label })}</div>}>
    <Editor {...props} />
  </Suspense>
);
