import { Form } from 'react-bootstrap';
import { ChosenItems, ItemFinder } from '../../../parts/index.ts';
import { t } from '../../../words/editors.ts';

/** Chooses single items of the sources, and whether what is linked with them counts. */
export function ItemsEditor({
  sources,
  chosen,
  isLinked,
  onChange,
}: {
  sources: string[];
  chosen: string[];
  isLinked: boolean;
  onChange: (items: string[], isLinked: boolean) => void;
}) {
  return (
    <>
      <ChosenItems
        ids={chosen}
        label={t('chosenItems')}
        onRemove={(id) =>
          onChange(
            chosen.filter((one) => one !== id),
            isLinked,
          )
        }
      />
      <ItemFinder
        source={sources[0] ?? ''}
        but={chosen}
        label={t('findAnItem')}
        onAdd={(id) => onChange([...chosen, id], isLinked)}
      />
      <Form.Check
        id="linked"
        label={t('andWhatIsLinkedWith')}
        checked={isLinked}
        disabled={chosen.length === 0}
        onChange={(event) => onChange(chosen, event.target.checked)}
      />
    </>
  );
}
