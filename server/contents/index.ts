export { cleanName } from './names.ts';
export { piecesOf, receiveContents, sweepContents } from './receiving.ts';
