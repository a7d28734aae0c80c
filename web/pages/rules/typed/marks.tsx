import type { TypedRule } from '../../../../contract/wire/index.ts';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/typed.ts';

type Mark = TypedRule['marks'][number];

interface MarksProps {
  id: string;
  text: string;
  marks: readonly Mark[];
  onPut: (mark: Mark, could: string) => void;
}

/** So many alternatives stand beside a stretch. */
const FEW = 4;

/** So many signs of a stretch are said. */
const LONG = 80;
const cutShort = (text: string): string => (text.length > LONG ? `${text.slice(0, LONG)}…` : text);

/** What of a sentence is not understood, in words, with what could stand there instead. */
export function Marks({ id, text, marks, onPut }: MarksProps) {
  return (
    <div id={id} className="typed-marks small" role="status">
      {marks.length > 0 && <span className="visually-hidden">{t('notUnderstood')}</span>}
      {marks.map((mark) => {
        const stretch = cutShort(text.slice(mark.from, mark.to).replace(/^,\s*/, ''));
        const could = mark.could.slice(0, FEW);
        if (mark.code === 'unfinished')
          return (
            <p key={mark.from} className="quiet">
              {t('mark.unfinished')} {could.length > 0 && t('goesOn', { could: phrases().or(could) })}
            </p>
          );
        return (
          <p key={mark.from}>
            {t(`mark.${mark.code as 'notHere'}`, { stretch })}{' '}
            {could.length > 0 && <span className="quiet">{t('putInstead')}</span>}{' '}
            {could.map((one) => (
              <button key={one} type="button" className="btn btn-link btn-sm" onClick={() => onPut(mark, one)}>
                {one}
              </button>
            ))}
          </p>
        );
      })}
    </div>
  );
}
