import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { ItemRow } from '../../../contract/wire/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { useNotice } from '../../parts/index.ts';
import { useItemActs } from '../../queries/index.ts';
import { t } from '../../words/documents.ts';
import { EyeEditor } from '../sources/eye.tsx';
import { EditChosen } from './edit-chosen.tsx';
import { DocumentActs } from './document-acts.tsx';

/** What is done with items that are chosen, all at once: as one batch, or by one rule about just these. */
export function ChosenItems({
  source,
  chosen,
  all,
  onClear,
}: {
  source: Source;
  chosen: readonly ItemRow[];
  /** Chooses all that is asked for, as far as so many go at once; absent where all is chosen. */
  all: { most: number; total: number; isComing: boolean; choose: () => void } | null;
  onClear: () => void;
}) {
  const acts = useItemActs(source.id);
  const notice = useNotice();
  const [isEyeOpen, setEyeOpen] = useState(false);
  const ids = chosen.map(({ id }) => id);
  const remove = () =>
    acts.mutate(
      { ids, act: { act: 'delete' } },
      {
        onSuccess: ({ results }) => {
          const gone = results.filter(({ outcome }) => outcome === 'done').map(({ id }) => id);
          const undo = () => acts.mutate({ ids: gone, act: { act: 'restore' } });
          notice({ words: t('done.delete', { done: gone.length }), ...(gone.length > 0 ? { undo } : {}) });
          onClear();
        },
      },
    );
  return (
    <section className="chosen-items" aria-label={t('theChosenItems')}>
      <div className="acts">
        <strong>{t('chosen', { items: chosen.length })}</strong>
        {all && (
          <Button variant="link" disabled={all.isComing} onClick={all.choose}>
            {all.isComing && t('theyAreComing')}
            {!all.isComing && t(all.most < all.total ? 'chooseTheFirst' : 'chooseAll', all)}
          </Button>
        )}
        <Button variant="link" onClick={onClear}>
          {t('chooseNone')}
        </Button>
      </div>
      {source.kind === 'folders' && <DocumentActs source={source} items={chosen} onDone={onClear} />}
      <div className="acts">
        <EditChosen source={source} chosen={chosen} onDone={onClear} />
        <Link
          className="btn btn-outline-primary"
          to={`/rules/new?${new URLSearchParams([['source', source.id], ...ids.map((id) => ['item', id])])}`}
        >
          {t('aRuleForThese')}
        </Link>
        <Button variant="outline-primary" aria-expanded={isEyeOpen} onClick={() => setEyeOpen(!isEyeOpen)}>
          {t('anEyeOnThese')}
        </Button>
        <Button variant="quiet" disabled={acts.isPending} onClick={remove}>
          {t('deleteThem', { items: chosen.length })}
        </Button>
      </div>
      {isEyeOpen && <EyeEditor key={ids.join()} target={{ source, these: ids }} onDone={onClear} />}
    </section>
  );
}
