import { type DragEvent, useState } from 'react';
import type { ItemRow } from '../../../contract/wire/index.ts';
import { refusalWords, useNotice } from '../../parts/index.ts';
import { useItemActs } from '../../queries/index.ts';
import { t } from '../../words/documents.ts';

/** Says of what is dragged that it is items of this source. */
const typeOf = (source: string): string => `application/x-ojo-items.${encodeURIComponent(source).toLowerCase()}`;

/** What a folder needs to have items dropped on it. */
export interface DropPlace {
  isOver: boolean;
  onDragOver: (event: DragEvent) => void;
  onDragLeave: () => void;
  onDrop: (event: DragEvent) => void;
}

/**
 * Items are moved by being dragged onto a folder: one, or all that are chosen, as one batch, undone by one press.
 * Everything of it goes without dragging too.
 */
export function useMoveByDrag(source: string, items: readonly ItemRow[], chosen: ReadonlySet<string>) {
  const acts = useItemActs(source);
  const notice = useNotice();
  const [over, setOver] = useState<string | null>(null);
  const type = typeOf(source);
  const move = (ids: string[], folder: string) => {
    const from = items.filter(({ id }) => ids.includes(id));
    const back = () => {
      for (const place of new Set(from.map((item) => item.folder)))
        if (place !== null)
          acts.mutate({
            ids: from.filter((item) => item.folder === place).map(({ id }) => id),
            act: { act: 'move', folder: place },
          });
    };
    acts.mutate(
      { ids, act: { act: 'move', folder } },
      {
        onSuccess: ({ results }) => {
          const done = results.filter(({ outcome }) => outcome === 'done').length;
          const why = results.find((one) => one.why)?.why;
          const refused = why && (why.detail ?? why.title);
          const nothing = refused ?? t('itIsThereAlready');
          const words = done > 0 ? [t('done.move', { done }), refused].filter(Boolean).join(' ') : nothing;
          notice({ words, ...(done > 0 ? { undo: back } : {}) });
        },
        onError: (error) => notice({ words: refusalWords(error) }),
      },
    );
  };
  return {
    /** What an item needs to be dragged. */
    drag: (item: string) => (event: DragEvent) => {
      const ids = chosen.has(item) ? [...chosen] : [item];
      event.dataTransfer.setData(type, JSON.stringify(ids));
      event.dataTransfer.effectAllowed = 'move';
    },
    /** What a folder needs to be dropped on. */
    drop: (folder: string): DropPlace => ({
      isOver: over === folder,
      onDragOver: (event) => {
        if (!event.dataTransfer.types.includes(type)) return;
        event.preventDefault();
        setOver(folder);
      },
      onDragLeave: () => setOver((now) => (now === folder ? null : now)),
      onDrop: (event) => {
        setOver(null);
        const ids = JSON.parse(event.dataTransfer.getData(type) || '[]') as string[];
        if (ids.length === 0) return;
        event.preventDefault();
        move(ids, folder);
      },
    }),
  };
}
