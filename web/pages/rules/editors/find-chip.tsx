import { Combobox, type Found } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';

interface FindChipProps<T> {
  words: string;
  className: string;
  /** What the field asks in which one is looked for. */
  question: string;
  offers: readonly Found<T>[];
  onChoose: (value: T) => void;
}

/** Something that is done with one of many: pressed, it asks which. It is done with what is chosen, not with what one goes past on the way. */
export function FindChip<T>({ words, className, question, offers, onChoose }: FindChipProps<T>) {
  return (
    <Chip
      label={words}
      className={className}
      isPlain
      editor={(close) => (
        <Combobox
          label={question}
          offers={offers}
          onAdd={(value) => {
            onChoose(value);
            close();
          }}
        />
      )}
    >
      {words}
    </Chip>
  );
}
