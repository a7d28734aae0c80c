import { Link } from 'react-router';
import { t } from '../words/parts.ts';

interface WhyLinkProps {
  source: string;
  change: string;
  /** Who is asked about; left out, oneself. */
  person?: string | null;
  words?: string;
}

/** Leads to who heard of a change, by which rule, and why others did not. */
export const WhyLink = ({ source, change, person, words = t('whoHeardOfIt') }: WhyLinkProps) => (
  <Link
    className="small why-link"
    to={`/why/${encodeURIComponent(source)}/${encodeURIComponent(change)}${person ? `?person=${encodeURIComponent(person)}` : ''}`}
  >
    {words}
  </Link>
);
