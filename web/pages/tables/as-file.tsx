import { Dropdown } from 'react-bootstrap';
import { Link } from 'react-router';
import { isTemporalType, type Source } from '../../../core/values/index.ts';
import { type ItemsAsked, tableAddress } from '../../queries/index.ts';
import { t } from '../../words/tables.ts';

const KINDS = ['csv', 'xlsx', 'json'] as const;

interface AsFileProps {
  source: Source;
  asked: ItemsAsked;
  mayTakeIn: boolean;
  /** Opens what makes a calendar of it, where it has dates. */
  onCalendar: () => void;
}

/** What is listed as a file, and rows of a file into the list. */
export const AsFile = ({ source, asked, mayTakeIn, onCalendar }: AsFileProps) => (
  <Dropdown align="end">
    <Dropdown.Toggle variant="quiet">{t('asAFile')}</Dropdown.Toggle>
    <Dropdown.Menu>
      {KINDS.map((kind) => (
        <Dropdown.Item key={kind} href={tableAddress(source.id, { ...asked }, kind)} download>
          {t('takeOutAs', { kind: kind.toUpperCase() })}
        </Dropdown.Item>
      ))}
      {source.fields.some(({ type }) => isTemporalType(type)) && (
        <Dropdown.Item as="button" onClick={onCalendar}>
          {t('asACalendar')}
        </Dropdown.Item>
      )}
      {source.kind !== 'folders' && mayTakeIn && (
        <>
          <Dropdown.Divider />
          <Dropdown.Item as={Link} to={`/rows-in/${encodeURIComponent(source.id)}`}>
            {t('rowsFromAFile')}
          </Dropdown.Item>
        </>
      )}
    </Dropdown.Menu>
  </Dropdown>
);
