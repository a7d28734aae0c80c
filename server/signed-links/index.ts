export { type LinkPurpose, SignedLinks } from './signed-links.ts';
