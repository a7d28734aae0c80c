export { bytes, figure, locale, phrases, speak } from './locale.ts';
