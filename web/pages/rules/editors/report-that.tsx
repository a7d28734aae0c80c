import { Form } from 'react-bootstrap';
import { scheduleWords } from '../../../../core/messages/index.ts';
import type { Report } from '../../../../core/rules/index.ts';
import { Several, TimeInput } from '../../../parts/index.ts';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';
import { Chip } from './chip.tsx';
import { DaysOfMonth, DaysOfWeek } from './days.tsx';
import { mark, type PartProps } from './part.tsx';
import { AsLongAs } from './scheduled.tsx';

/** As what files a report goes along. */
const FILES = ['csv', 'xlsx'] as const;
const RHYTHMS = ['day', 'week', 'month'] as const;
const rhythmWords = () => ({ day: t('eachDay'), week: t('eachWeek'), month: t('eachMonth') });

/** A report: when it comes, of what that is so, and whether with nothing in it too. */
export function ReportThat(props: PartProps & { report: Report }) {
  const { rule, report, edited, isFixed, onChange } = props;
  const put = (part: Partial<Report>) => onChange({ ...rule, report: { ...report, ...part } });
  const className = mark(edited, 'report');
  const setRhythm = (every: (typeof RHYTHMS)[number]) => {
    const { on: _, ...rest } = report;
    const days = { day: {}, week: { on: ['MO' as const] }, month: { on: [1] } }[every];
    onChange({ ...rule, report: { ...rest, every, ...days } });
  };
  const { attach = [] } = rule.message;
  const putFiles = (chosen: string[]) => {
    const { attach: _, ...message } = rule.message;
    const files = FILES.filter((kind) => chosen.includes(kind));
    onChange({ ...rule, message: files.length > 0 ? { ...message, attach: files } : message });
  };
  return (
    <>
      <Chip
        label={t('whenItComes')}
        className={className}
        disabled={isFixed}
        editor={() => (
          <>
            <Form.Select
              aria-label={t('howOftenItComes')}
              value={report.every}
              onChange={({ target }) => setRhythm(RHYTHMS.find((one) => one === target.value) ?? 'day')}
            >
              {RHYTHMS.map((every) => (
                <option key={every} value={every}>
                  {rhythmWords()[every]}
                </option>
              ))}
            </Form.Select>
            {report.every === 'week' && <DaysOfWeek on={report.on} onChange={(on) => put({ on })} />}
            {report.every === 'month' && <DaysOfMonth on={report.on} onChange={(on) => put({ on })} />}
            <div className="row-of">
              <span className="beside">{t('at')}</span>
              <TimeInput
                label={t('atThisTimeOfDay')}
                value={report.at}
                isNeeded
                onChange={(at) => at !== null && put({ at })}
              />
            </div>
            <Form.Check
              id="report-empty"
              label={t('alsoWithNothingInIt')}
              checked={report.empty}
              onChange={({ target }) => put({ empty: target.checked })}
            />
            <p className="small quiet">{t('alsoAsAFile')}</p>
            <Several
              name="report-files"
              label={t('alsoAsAFile')}
              options={FILES.map((kind) => [kind, t(`reportFile.${kind}`)])}
              chosen={attach}
              onChange={putFiles}
            />
          </>
        )}
      >
        <strong>{scheduleWords(report, phrases())}</strong>
        {report.empty && t('evenEmpty')}
        {attach.length > 0 && t('asFiles', { kinds: phrases().and(attach.map((kind) => t(`reportFile.${kind}`))) })}
      </Chip>
      {t('ofAllThat')}
      <AsLongAs {...props} test={report.if} className={className} onPut={(test) => put({ if: test })} words="report" />
    </>
  );
}
