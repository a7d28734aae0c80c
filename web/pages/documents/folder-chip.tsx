import { useViewer } from '../../parts/index.ts';
import { FindChip } from '../rules/editors/find-chip.tsx';

/** A folder, as far as it is named. */
interface Place {
  id: string;
  name: string;
  parent: string | null;
}

/** A folder with those above it, in a line. */
export function pathOf(id: string, folders: readonly Place[]): string {
  const found = folders.find((one) => one.id === id);
  if (!found) return '';
  return found.parent ? `${pathOf(found.parent, folders)} / ${found.name}` : found.name;
}

interface FolderChipProps {
  words: string;
  className: string;
  /** What the field asks in which a folder is looked for. */
  question: string;
  offered: readonly Place[];
  onChoose: (folder: string) => void;
}

/** Something that is done with one folder: pressed, it asks which. */
export function FolderChip({ offered, ...more }: FolderChipProps) {
  const { directory } = useViewer();
  const offers = offered
    .map(({ id }) => ({ value: id, name: pathOf(id, directory.folders), kind: '' }))
    .sort((a, b) => a.name.localeCompare(b.name));
  return <FindChip {...more} offers={offers} />;
}
