import { useCombobox } from 'downshift';
import { type ChangeEvent, type KeyboardEvent, useState } from 'react';
import { Form } from 'react-bootstrap';

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
}

/** Finds what to add among many by a part of its name (ARIA combobox with a list); Enter adds what is marked, the first at first. */
export function Combobox<T>({
  offers,
  label,
  onAdd,
  onSearch,
  nothing = 'Nothing else by that name.',
  id,
}: ComboboxProps<T>) {
  const [text, setText] = useState('');
  const wanted = onSearch ? '' : text.trim().toLowerCase();
  const shown = offers.filter(({ name, kind }) => `${name} ${kind}`.toLowerCase().includes(wanted)).slice(0, MOST);
  const put = (next: string) => {
    setText(next);
    onSearch?.(next);
  };
  const { getInputProps, getMenuProps, getItemProps, highlightedIndex } = useCombobox<Found<T>>({
    items: shown,
    isOpen: true,
    defaultHighlightedIndex: 0,
    inputValue: text,
    selectedItem: null,
    itemToString: (one) => one?.name ?? '',
    ...(id ? { inputId: id } : {}),
    onSelectedItemChange: ({ selectedItem }) => {
      if (!selectedItem) return;
      onAdd(selectedItem.value);
      put('');
    },
    stateReducer: (state, { changes, type }) => {
      const { InputBlur, InputKeyDownEnter, ItemClick } = useCombobox.stateChangeTypes;
      // The list stays when its box is left; what was typed has served once something is added.
      if (type === InputBlur) return { ...state, highlightedIndex: 0 };
      return type === InputKeyDownEnter || type === ItemClick
        ? { ...changes, inputValue: '', highlightedIndex: 0 }
        : changes;
    },
  });
  return (
    <>
      <Form.Control
        type="search"
        placeholder={label}
        {...getInputProps({
          'aria-label': label,
          // As it is typed, not a moment later: letters come faster than pages are drawn.
          onChange: ({ currentTarget }: ChangeEvent<HTMLInputElement>) => put(currentTarget.value),
          // Escape leaves whatever the list stands in.
          onKeyDown: (event: KeyboardEvent & { nativeEvent: { preventDownshiftDefault?: boolean } }) => {
            if (event.key === 'Escape') event.nativeEvent.preventDownshiftDefault = true;
          },
        })}
      />
      <div className="choices" {...getMenuProps({ 'aria-label': `${label}: what fits` })}>
        {shown.map((one, index) => (
          <div
            key={JSON.stringify(one.value)}
            className={`dropdown-item choice${index === highlightedIndex ? ' is-marked' : ''}`}
            {...getItemProps({ item: one, index })}
          >
            <span className="cut">{one.name}</span>
            <span className="quiet small cut">{one.kind}</span>
          </div>
        ))}
      </div>
      {shown.length === 0 && nothing !== '' && <p className="quiet small">{nothing}</p>}
    </>
  );
}
