import { Link } from 'react-router';
import type { Source } from '../../../core/values/index.ts';
import { t as rights } from '../../words/access.ts';
import { t as doors } from '../../words/doors.ts';
import { t as forms } from '../../words/forms.ts';
import { t } from '../../words/sources.ts';

const SEES = ['items', 'hearing', 'rights', 'forms', 'doors'] as const;
export type Seen = (typeof SEES)[number];
export const seenOf = (asked: string | null): Seen => SEES.find((one) => one === asked) ?? 'items';

interface TabsProps {
  source: Source;
  base: string;
  see: Seen;
  /** People without an account may add to it by forms, which the reader sets up. */
  hasForms: boolean;
  /** Other programs may hand changes in, by doors that the reader sets up. */
  hasDoors: boolean;
}

/** What of a source is shown, each with an address of its own. */
export const SourceTabs = ({ source, base, see, hasForms, hasDoors }: TabsProps) => (
  <ul className="tabs mt-2">
    <li>
      <Link className={see === 'items' ? 'active' : ''} to={base}>
        {source.kind === 'folders' ? t('tabDocuments') : t('items')}
      </Link>
    </li>
    <li>
      <Link className={see === 'hearing' ? 'active' : ''} to={`${base}?see=hearing`}>
        {t('whoHearsWhat')}
      </Link>
    </li>
    <li>
      <Link className={see === 'rights' ? 'active' : ''} to={`${base}?see=rights`}>
        {rights('whoMay')}
      </Link>
    </li>
    {hasForms && (
      <li>
        <Link className={see === 'forms' ? 'active' : ''} to={`${base}?see=forms`}>
          {forms('tab')}
        </Link>
      </li>
    )}
    {hasDoors && (
      <li>
        <Link className={see === 'doors' ? 'active' : ''} to={`${base}?see=doors`}>
          {doors('tab')}
        </Link>
      </li>
    )}
    <li>
      <Link to={`/trail?source=${encodeURIComponent(source.id)}`}>{t('trail')}</Link>
    </li>
  </ul>
);
