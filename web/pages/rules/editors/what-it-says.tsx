import { useMemo } from 'react';
import { Link } from 'react-router';
import { placeholdersOf, voiceOf } from '../../../../core/messages/index.ts';
import { occasionsOf, type Rule, type RuleMessage } from '../../../../core/rules/index.ts';
import type { TryPage } from '../../../../contract/wire/index.ts';
import {
  ChangeMark,
  MarkedLine,
  OwnWords,
  ReportTable,
  templateInWords,
  Several,
  useViewer,
  Radios,
  Writing,
} from '../../../parts/index.ts';
import { WhoseMessage } from '../trial/message-preview.tsx';
import { SendToMe } from '../trial/send-to-me.tsx';
import { Chip } from './chip.tsx';
import { SenderChip } from './sender-chip.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { t } from '../../../words/editors.ts';
import { phrases } from '../../../words/index.ts';

interface MessageProps extends PartProps {
  put: (part: Partial<RuleMessage>) => void;
  isOwn: boolean;
  tried: TryPage | undefined;
  onPerson: (person: string) => void;
}

/** What the message says beside what it always says, and from whom it comes. */
export function WhatItSays({
  tried,
  onPerson,
  ...props
}: PartProps & { tried: TryPage | undefined; onPerson: (person: string) => void }) {
  const preview = tried?.preview;
  const { rule, faults, isFixed, onChange } = props;
  const { message } = rule;
  const isOwn = message.subject !== null || message.body !== null;
  const usual = useUsualWording(rule);
  const own: MessageProps = {
    ...props,
    isOwn,
    tried,
    onPerson,
    put: (part) => onChange({ ...rule, message: { ...message, ...part } }),
  };
  return (
    <Part
      title={t('whatItSays')}
      faults={faults}
      path={['message']}
      hint={rule.report ? t('aReportSays') : alwaysSaid(isOwn || message.wording !== null || usual !== undefined)}
    >
      <WordingChip {...own} />
      {isOwn && <OwnWordsChip {...own} />}
      {(!isOwn || message.show.length > 0) && t('and')}
      <ShownChip {...own} />
      {(!isFixed || message.doNow) && <DoNowChip {...own} />}
      {(message.from !== 'ojo' || message.replyTo !== null) && <SenderChip {...own} />}
      {preview && <PreviewCard preview={preview} />}
    </Part>
  );
}

function WordingChip({ rule, isOwn, put, edited, isFixed }: MessageProps) {
  const { directory } = useViewer();
  const { message } = rule;
  const usual = useUsualWording(rule);
  const shared = directory.wordings.find((one) => one.id === message.wording);
  const first = rule.report ? FIRST_OF_REPORT : FIRST_OF_ITEM;
  const take = (chosen: string | null) =>
    chosen === OWN
      ? put({ subject: (shared ?? usual)?.subject ?? first.subject, body: (shared ?? usual)?.body ?? first.body })
      : put({ wording: chosen, subject: null, body: null });
  return (
    <Chip
      label={t('whichWording')}
      className={mark(edited, 'message')}
      disabled={isFixed}
      editor={() => (
        <fieldset className="choices">
          <Radios
            name="wording"
            options={[
              [null, usual === undefined ? asOjoSays(rule) : t('asIsUsual', { name: usual.name })],
              ...directory.wordings.map((one) => [one.id, t('whichRulesShare', { name: one.name })] as const),
              [OWN, t('wordsOfThisRulesOwn')],
            ]}
            chosen={isOwn ? OWN : message.wording}
            onChange={take}
          />
          <Link className="small mt-1" to="/wordings">
            {t('lookAtTheSharedWordings')}
          </Link>
        </fieldset>
      )}
    >
      <WordingWords isOwn={isOwn} isReport={rule.report !== null} shared={(shared ?? usual)?.name} />
    </Chip>
  );
}

const alwaysSaid = (hasWords: boolean): string =>
  hasWords ? t('ojoAlwaysAddsWhichRule') : t('alwaysWhichItemWhatChanged');

/** What such a rule usually says, where it looks at nothing that has something else. */
function useUsualWording(rule: Rule) {
  const { scope } = rule;
  const { directory } = useViewer();
  const [occasion] = occasionsOf(rule);
  const { wordings } = directory;
  const voice = voiceOf(
    { usual: wordings.flatMap(({ id, usual }) => usual.map((at) => ({ ...at, wording: id }))), senders: [] },
    (id) => wordings.find((one) => one.id === id),
  );
  const all = new Set(occasion ? scope.sources.map((source) => voice.usual(source, occasion)) : []);
  return all.size === 1 ? [...all][0] : undefined;
}

/** Stands for the rule's own words among the ids of wordings, which have no sign like it. */
const OWN = '*own';

function WordingWords({ isOwn, isReport, shared }: { isOwn: boolean; isReport: boolean; shared: string | undefined }) {
  if (isOwn) return t(isReport ? 'wordsOverTheTable' : 'inWordsOfItsOwn');
  if (shared !== undefined) return t.rich('as2', { name: shared });
  return t(isReport ? 'theTable' : 'whatChanged');
}

const asOjoSays = ({ report }: Rule): string => t(report ? 'theTableAsOjoSays' : 'whatChangedAsOjoSays');

function OwnWordsChip({ rule, put, edited, isFixed, tried, onPerson }: MessageProps) {
  const { source: sourceOf, directory } = useViewer();
  const { subject, body } = rule.message;
  const sources = useMemo(() => rule.scope.sources.flatMap((id) => sourceOf(id) ?? []), [rule.scope.sources, sourceOf]);
  const names = useMemo(
    () => placeholdersOf(sources, new Map(directory.sources.map((one) => [one.id, one]))),
    [sources, directory.sources],
  );
  const preview = tried?.preview;
  const writing = { names, sources, values: preview?.values ?? {} };
  return (
    <Chip
      label={t('theRulesOwnWords')}
      className={mark(edited, 'message')}
      disabled={isFixed}
      editor={() => (
        <div className="wide-editor">
          <div>
            <Writing
              {...writing}
              isLine
              isPlain
              label={t('subject')}
              value={subject ?? ''}
              onChange={(next) => put({ subject: next })}
            />
          </div>
          <div>
            <Writing {...writing} label={t('body')} value={body ?? ''} onChange={(next) => put({ body: next })} />
          </div>
          {preview && (
            <div className="beside-writing">
              <WhoseMessage
                told={[...new Set(tried.messages.map((one) => one.to))]}
                shown={preview.to}
                onPerson={onPerson}
              />
              <PreviewCard preview={preview} />
              <SendToMe rule={rule} change={tried.sample?.row.id ?? null} person={preview.to} />
            </div>
          )}
        </div>
      )}
    >
      <strong>{subject ? templateInWords(subject, sources, directory.sources) : t('aBodyOfItsOwn')}</strong>
    </Chip>
  );
}

function ShownChip({ rule, source, put, edited, isFixed }: MessageProps) {
  const { show } = rule.message;
  const nameOf = (id: string) => source.fields.find((field) => field.id === id)?.name ?? id;
  const none = isFixed ? t('noOtherFields') : t('addFields');
  return (
    <Chip
      label={t('fieldsToShowAsWell')}
      className={show.length > 0 || isFixed ? mark(edited, 'message') : 'is-adding'}
      disabled={isFixed}
      editor={() => (
        <Several
          name="show"
          label={t('fieldsToShow')}
          options={source.fields.map((field) => [field.id, field.name])}
          chosen={show}
          onChange={(chosen) =>
            put({ show: source.fields.map((field) => field.id).filter((id) => chosen.includes(id)) })
          }
        />
      )}
    >
      {show.length === 0 ? none : <strong>{phrases().and(show.map(nameOf))}</strong>}
    </Chip>
  );
}

const DoNowChip = ({ rule: { message }, put, edited, isFixed }: MessageProps) => (
  <Chip
    label={t('whatToDoNow')}
    className={message.doNow ? mark(edited, 'message') : 'is-adding'}
    disabled={isFixed}
    onRemove={message.doNow ? () => put({ doNow: null }) : undefined}
    editor={() => (
      <div className="wide-editor">
        <Writing
          isLine
          label={t('whatToDoNow')}
          names={[]}
          sources={[]}
          value={message.doNow ?? ''}
          onChange={(doNow) => put({ doNow: doNow || null })}
        />
        <p className="small quiet">{t('checkThatCoverRunsFrom')}</p>
      </div>
    )}
  >
    {message.doNow ? t.rich('doNow', { doNow: <MarkedLine text={message.doNow} /> }) : t('whatToDoNow2')}
  </Chip>
);

/** The message as the change tried on would bring it. */
function PreviewCard({ preview: { content, subject } }: { preview: NonNullable<TryPage['preview']> }) {
  const [entry] = content.entries;
  return (
    <div className="preview-card">
      <strong>{subject}</strong>
      {content.own?.body ? (
        <div className="own-words">
          <OwnWords text={content.own.body} />
        </div>
      ) : (
        entry && (
          <div>
            {entry.fields.length > 0 ? <ChangeMark fields={entry.fields.slice(0, 3)} /> : entry.notes.join(', ')}{' '}
            {entry.steps.length > 0 && (
              <span className="quiet">
                {t('by', { actor: entry.steps.at(-1)?.actor ?? '', when: entry.steps.at(-1)?.when ?? '' })}
              </span>
            )}
          </div>
        )
      )}
      {content.report && <ReportTable table={content.report} />}
    </div>
  );
}

/** What a rule's own words begin with: of an item, and over the table of a report. */
const FIRST_OF_ITEM = {
  subject: '{{ item.title }}',
  body: '{{ recipient.name }},\n\n{{ change.actor }} changed {{ item.title }}, {{ change.at }}:\n{% for field in change.fields %}{{ field.label }}: {{ field.before }} → {{ field.after }}\n{% endfor %}\n{{ links.item }}\n',
};
const FIRST_OF_REPORT = { subject: '{{ rule.name }}', body: '{{ recipient.name }},\n\n' };
