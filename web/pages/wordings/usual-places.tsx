import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { WordingRow } from '../../../contract/wire/index.ts';
import { ALL_OCCASIONS, type Occasion } from '../../../core/rules/index.ts';
import { type Viewer, useViewer } from '../../parts/index.ts';
import { t } from '../../words/wordings.ts';

type Place = WordingRow['usual'][number];

const OCCASIONS = {
  change: () => t('whenSomethingChanges'),
  due: () => t('whenADateComes'),
  idle: () => t('whenNothingHappens'),
  tally: () => t('whenATallyPasses'),
  report: () => t('whenAReportComes'),
} satisfies Record<Occasion, () => string>;

/** Where a wording is usual, in words: *Loan agreements, when something changes*. */
export const placeWords = ({ source, occasion }: Place, viewer: Viewer): string =>
  t('usualPlace', {
    source: source === null ? t('everySource') : (viewer.source(source)?.name ?? source),
    occasion: OCCASIONS[occasion](),
  });

const isSame = (one: Place, other: Place) => one.source === other.source && one.occasion === other.occasion;

/** Says for which rules without words of their own a wording stands. */
export function UsualPlaces({
  id,
  places,
  onChange,
}: {
  id: string;
  places: Place[];
  onChange: (places: Place[]) => void;
}) {
  const viewer = useViewer();
  const { directory } = viewer;
  const [source, setSource] = useState('');
  const [occasion, setOccasion] = useState<Occasion>('change');
  const place: Place = { source: source || null, occasion };
  const taken = directory.wordings.find(
    (one) => one.usual.some((other) => isSame(other, place)) && !places.some((other) => isSame(other, place)),
  );
  const isThere = places.some((one) => isSame(one, place));
  return (
    <fieldset className="usual-places">
      <legend className="form-label">{t('usuallySaidFor')}</legend>
      <p className="small quiet">{t('rulesWithoutWords')}</p>
      {places.length > 0 && (
        <ul className="plain-list">
          {places.map((one) => (
            <li key={`${one.source}/${one.occasion}`}>
              {placeWords(one, viewer)}
              <Button
                variant="quiet"
                size="sm"
                aria-label={t('noLongerUsualFor', { place: placeWords(one, viewer) })}
                onClick={() => onChange(places.filter((other) => !isSame(one, other)))}
              >
                {t('takeAway')}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <div className="row-of">
        <Form.Select
          id={id}
          aria-label={t('ofWhichSource')}
          value={source}
          onChange={(event) => setSource(event.target.value)}
        >
          <option value="">{t('everySource')}</option>
          {directory.sources.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </Form.Select>
        <Form.Select
          aria-label={t('onWhatOccasion')}
          value={occasion}
          onChange={(event) => setOccasion(event.target.value as Occasion)}
        >
          {ALL_OCCASIONS.map((one) => (
            <option key={one} value={one}>
              {OCCASIONS[one]()}
            </option>
          ))}
        </Form.Select>
        <Button variant="outline-primary" disabled={isThere} onClick={() => onChange([...places, place])}>
          {t('add')}
        </Button>
      </div>
      {isThere && <p className="small quiet">{t('usualThereAlready')}</p>}
      {taken && <p className="small quiet">{t('takesThePlaceOf', { name: taken.name })}</p>}
    </fieldset>
  );
}
