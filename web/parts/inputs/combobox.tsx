import { useCombobox } from 'downshift';
import { type ChangeEvent, type KeyboardEvent, type MouseEvent, useState } from 'react';
import { Form } from 'react-bootstrap';
import { t } from '../../words/parts.ts';
import { faultId } from './fault-id.ts';

/** Something that can be found by its name. */
export interface Found<T> {
  value: T;
  name: string;
  kind: string;
}

const MOST = 60;

interface ComboboxProps<T> {
  offers: readonly Found<T>[];
  label: string;
  onAdd: (value: T) => void;
  /** What is typed, where somebody else finds by it; left out, the offers are narrowed here. */
  onSearch?: (text: string) => void;
  /** Said where nothing fits. */
  nothing?: string;
  id?: string;
  /** Whether one is here to find something: the box takes the focus once it is there. Among other fields it does not. */
  isEntered?: boolean;
}

/** Finds what to add among many by a part of its name (ARIA combobox with a list); Enter adds what is marked, the first at first. */
export function Combobox<T>({
  offers,
  label,
  onAdd,
  onSearch,
  nothing = t('nothingElseByThatName'),
  id,
  isEntered = true,
}: ComboboxProps<T>) {
  // What opens takes the focus: among other fields it opens once it has it.
  const [isOpen, setOpen] = useState(isEntered);
  const [text, setText] = useState('');
  const wanted = onSearch ? '' : text.trim().toLowerCase();
  const shown = offers.filter(({ name, kind }) => `${name} ${kind}`.toLowerCase().includes(wanted)).slice(0, MOST);
  const put = (next: string) => {
    setText(next);
    onSearch?.(next);
  };
  const { getInputProps, getMenuProps, getItemProps, highlightedIndex, setHighlightedIndex } = useCombobox<Found<T>>({
    items: shown,
    isOpen,
    defaultHighlightedIndex: 0,
    inputValue: text,
    selectedItem: null,
    itemToString: (one) => one?.name ?? '',
    ...(id ? { inputId: id } : {}),
    stateReducer: (state, { changes, type }) =>
      // The list stays when its box is left.
      type === useCombobox.stateChangeTypes.InputBlur ? { ...state, highlightedIndex: 0 } : changes,
  });
  // At once, not in an effect: the next letter typed must find an empty box.
  const add = (one: Found<T> | undefined) => {
    if (!one) return;
    onAdd(one.value);
    put('');
    setHighlightedIndex(0);
  };
  return (
    <>
      <Form.Control
        type="search"
        placeholder={label}
        {...getInputProps({
          'aria-label': label,
          ...(id ? { 'aria-describedby': faultId(id) } : {}),
          onFocus: () => setOpen(true),
          // As it is typed, not a moment later: letters come faster than pages are drawn.
          onChange: ({ currentTarget }: ChangeEvent<HTMLInputElement>) => put(currentTarget.value),
          onKeyDown: (event: KeyboardEvent & { nativeEvent: { preventDownshiftDefault?: boolean } }) => {
            // Escape leaves whatever the list stands in.
            if (event.key === 'Escape') event.nativeEvent.preventDownshiftDefault = true;
            if (event.key !== 'Enter' || event.nativeEvent.isComposing) return;
            event.nativeEvent.preventDownshiftDefault = true;
            event.preventDefault();
            add(shown[Math.max(0, highlightedIndex)]);
          },
        })}
      />
      <div className="choices" {...getMenuProps({ 'aria-label': t('whatFits', { label }) })}>
        {(isOpen ? shown : []).map((one, index) => (
          <div
            key={JSON.stringify(one.value)}
            className={`dropdown-item choice${index === highlightedIndex ? ' is-marked' : ''}`}
            {...getItemProps({
              item: one,
              index,
              onClick: (event: MouseEvent & { nativeEvent: { preventDownshiftDefault?: boolean } }) => {
                event.nativeEvent.preventDownshiftDefault = true;
                add(one);
              },
            })}
          >
            <span className="cut">{one.name}</span>
            <span className="quiet small cut">{one.kind}</span>
          </div>
        ))}
      </div>
      {isOpen && shown.length === 0 && nothing !== '' && <p className="quiet small">{nothing}</p>}
    </>
  );
}
