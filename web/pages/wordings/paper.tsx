import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { paperSchema } from '../../../contract/wire/index.ts';
import { marked } from '../../../core/messages/index.ts';
import { Controlled, Ends, Refused, SendForm, useSending } from '../../forms/index.ts';
import { OwnWords, useDraftKey, useNotice, useViewer, Writing } from '../../parts/index.ts';
import { useSavePaper } from '../../queries/index.ts';
import { t } from '../../words/wordings.ts';

/** What stands above and below every email. Stewards write it. */
export function PaperSection() {
  const { directory, me } = useViewer();
  const [isOpen, setOpen] = useState(false);
  const { letterhead, signOff } = directory.house;
  const mayWrite = me.role === 'steward';
  return (
    <section className="house-part" aria-labelledby="paper">
      <div className="page-head">
        <h2 id="paper">{t('aboveAndBelow')}</h2>
        <span className="quiet">{t('whatStandsOnEvery')}</span>
        {mayWrite && !isOpen && (
          <div className="acts">
            <Button variant="quiet" onClick={() => setOpen(true)}>
              {t('edit')}
            </Button>
          </div>
        )}
      </div>
      {isOpen ? (
        <PaperEditor onDone={() => setOpen(false)} />
      ) : (
        <div className="house-paper">
          <Part words={letterhead} none={t('noLetterhead')} />
          <p className="is-message">{t('theMessageStandsHere')}</p>
          <Part words={signOff} none={t('noSignOff')} />
        </div>
      )}
    </section>
  );
}

const Part = ({ words, none }: { words: string | null; none: string }) =>
  words === null ? (
    <p className="quiet">{none}</p>
  ) : (
    <div className="own-words">
      <OwnWords text={marked(words)} />
    </div>
  );

function PaperEditor({ onDone }: { onDone: () => void }) {
  const { directory } = useViewer();
  const notice = useNotice();
  const save = useSavePaper();
  const { letterhead, signOff } = directory.house;
  const sending = useSending({
    shape: paperSchema,
    start: { letterhead, signOff },
    draft: useDraftKey('paper'),
    send: (paper) => save.mutateAsync(paper),
    onSent: () => {
      notice({ words: t('paperIsSaved') });
      onDone();
    },
  });
  const field = (name: 'letterhead' | 'signOff', label: string) => (
    <Controlled sending={sending} name={name} id={`paper-${name}`}>
      {(value, onChange) => (
        <Writing id={`paper-${name}`} label={label} names={[]} sources={[]} value={value ?? ''} onChange={onChange} />
      )}
    </Controlled>
  );
  return (
    <SendForm sending={sending} className="wording-editor">
      <div>{field('letterhead', t('letterhead'))}</div>
      <div>{field('signOff', t('signOff'))}</div>
      <p className="small">{t('fromTheNextEmail')}</p>
      <Refused sending={sending} />
      <Ends sending={sending} words={t('save')} leave={t('leaveIt')} onLeave={onDone} />
    </SendForm>
  );
}
