import { useEffect, useId, useLayoutEffect, useRef } from 'react';
import { LIMITS } from '../../../../contract/limits.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { closeUp, ProblemNote, useCopy, useViewer } from '../../../parts/index.ts';
import { figure } from '../../../words/index.ts';
import { t } from '../../../words/typed.ts';
import { Marks } from './marks.tsx';
import { Mirror } from './mirror.tsx';
import { type Offered, OfferedList, useOffered } from './offered-list.tsx';
import { type Typed, useTyping } from './typing.ts';

interface TypedLineProps {
  rule: Rule;
  /** What is typed already, where somebody comes with a sentence. */
  first: string;
  /** A rule that says nothing yet: its sentence would only be in the way. */
  isBlank: boolean;
  isFixed: boolean;
  onChange: (rule: Rule) => void;
}

/** A rule as one sentence: said of the rule, and typed with what could stand at each place. */
export function TypedLine({ rule, first, isBlank, isFixed, onChange }: TypedLineProps) {
  const { me } = useViewer();
  const typing = useTyping(rule, { zone: me.zone, first, isBlank, onChange });
  const field = useRef<HTMLTextAreaElement>(null);
  const id = useId();
  const list = useOffered(typing.reading?.offered ?? [], typing.isFresh);
  const { text, cursor } = typing;
  // What is being typed just now is not called wrong.
  const marks = (typing.reading?.marks ?? []).filter(({ to }) => !(list.isOpen && to === cursor));
  const put = (next: string, at: number) => {
    typing.type({ text: next, cursor: at });
    list.open();
    field.current?.focus();
    placed.current = at;
  };
  const placed = useRef<number | null>(null);
  // Where the cursor goes is known once the text stands in the field.
  useLayoutEffect(() => {
    if (placed.current === null) return;
    field.current?.setSelectionRange(placed.current, placed.current);
    placed.current = null;
  });
  useEffect(() => {
    if (first === '') return;
    field.current?.focus();
    field.current?.setSelectionRange(first.length, first.length);
  }, [first]);
  const take = ({ text: said, from }: Offered) => {
    const rest = text.slice(cursor).replace(/^ /, '');
    put(`${text.slice(0, from)}${said} ${rest}`, from + said.length + 1);
  };
  return (
    <section className="typed" aria-label={t('sayIt')}>
      <Head field={`${id}-field`} text={text} />
      <div className="typed-field">
        <Mirror ref={list.place} text={text} cursor={cursor} reading={typing.reading && { ...typing.reading, marks }} />
        <textarea
          id={`${id}-field`}
          ref={field}
          rows={1}
          value={text}
          readOnly={isFixed}
          spellCheck={false}
          autoComplete="off"
          placeholder={typing.cannotBeSaid ? t('cannotBeSaid') : t('example')}
          aria-autocomplete="list"
          aria-haspopup="listbox"
          aria-controls={list.isOpen ? `${id}-list` : undefined}
          aria-activedescendant={list.isOpen ? `${id}-${list.at}` : undefined}
          aria-describedby={`${id}-help ${id}-marks`}
          onChange={({ target }) => {
            const next = writtenIn(target.value, target.selectionStart);
            typing.type(next);
            if (next.text !== target.value) placed.current = next.cursor;
            list.open();
          }}
          onSelect={({ currentTarget }) => {
            const at = currentTarget.selectionStart;
            if (typing.reading && at !== cursor) typing.type({ text, cursor: at });
          }}
          onKeyDown={(event) => list.press(event, take)}
          onBlur={list.close}
        />
        {list.isOpen && <OfferedList id={id} list={list} onTake={take} />}
      </div>
      <p id={`${id}-help`} className={`typed-help small quiet ${isFixed ? 'visually-hidden' : ''}`}>
        {t('help')}
      </p>
      <NotRead typing={typing} />
      <Marks
        id={`${id}-marks`}
        text={text}
        marks={marks}
        onPut={(mark, could) => {
          const next = `${text.slice(0, mark.from)}${could}${text.slice(mark.to)}`;
          put(next, mark.from + could.length);
        }}
      />
    </section>
  );
}

/** Why what is typed is not read at all. */
function NotRead({ typing: { isTooLong, refusal, text } }: { typing: ReturnType<typeof useTyping> }) {
  if (isTooLong)
    return (
      <p className="problem" role="alert">
        {t('tooLong', { most: figure(LIMITS.sentence), length: figure(text.length) })}
      </p>
    );
  return refusal && <ProblemNote error={refusal.error} onRetry={refusal.again} />;
}

/** What the field is called, and the way to copy what stands in it. */
function Head({ field, text }: { field: string; text: string }) {
  const copy = useCopy();
  return (
    <div className="typed-head">
      <label htmlFor={field}>{t('sayIt')}</label>
      {text !== '' && (
        <button type="button" className="btn btn-link btn-sm" onClick={() => copy(text)}>
          {t('copy')}
        </button>
      )}
    </div>
  );
}

/** What is written in the field: one line, however many it takes to show, and no space before a sign that closes. */
function writtenIn(value: string, cursor: number): Typed {
  const line = (text: string) => text.replace(/\s*\n\s*/g, ' ');
  const before = closeUp(line(value.slice(0, cursor)));
  return { text: `${before}${line(value.slice(cursor))}`, cursor: before.length };
}
