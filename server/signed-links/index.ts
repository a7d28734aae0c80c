export { type LinkPurpose, SignedLinks } from './signed-links.ts';
export { ReportAddresses } from './report-addresses.ts';
