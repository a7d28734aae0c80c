export { figure, locale, phrases, speak } from './locale.ts';
