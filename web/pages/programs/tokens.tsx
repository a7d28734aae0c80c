import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { type TokenRow, tokenSchema } from '../../../contract/wire/index.ts';
import { Ends, Refused, SelectField, SendForm, TextField, typedWhole, useSending } from '../../forms/index.ts';
import { Loaded, ProblemNote, Time, ToldOnce, useNotice } from '../../parts/index.ts';
import { useEndToken, useMakeToken, useTokens } from '../../queries/index.ts';
import { t } from '../../words/programs.ts';

/** A token that has just been made, with what it is for. */
interface Made {
  name: string;
  token: string;
}

/** One's own tokens: made, shown once, listed and ended. */
export function Tokens() {
  const tokens = useTokens();
  const [isMaking, setMaking] = useState(false);
  const [made, setMade] = useState<Made | null>(null);
  return (
    <section className="groups-page">
      <h2>{t('yourTokens')}</h2>
      <p className="reading quiet">{t('whatATokenIs')}</p>
      {made && (
        <ToldOnce
          words={t('keepTheToken', { name: made.name })}
          value={made.token}
          label={t('theToken', { name: made.name })}
          onDone={() => setMade(null)}
        />
      )}
      {isMaking ? (
        <Making
          onDone={() => setMaking(false)}
          onMade={(one) => {
            setMade(one);
            setMaking(false);
          }}
        />
      ) : (
        <Button variant="outline-primary" size="sm" onClick={() => setMaking(true)}>
          {t('newToken')}
        </Button>
      )}
      <Loaded query={tokens} what={t('theTokens')} rows={2}>
        {(rows) =>
          rows.length === 0 ? (
            <p className="quiet mt-2">{t('noTokens')}</p>
          ) : (
            <ul className="plain-list group-rows">
              {rows.map((token) => (
                <OneToken key={token.id} token={token} />
              ))}
            </ul>
          )
        }
      </Loaded>
    </section>
  );
}

function OneToken({ token: { id, name, scope, expiresAt, usedAt } }: { token: TokenRow }) {
  const end = useEndToken();
  const notice = useNotice();
  return (
    <li className="group-row">
      <div className="form-line">
        <strong>{name}</strong>
        <div className="quiet small">
          {t(`scope.${scope}`)}, {t.rich('until', { time: <Time at={expiresAt} full /> })},{' '}
          {usedAt ? t.rich('usedLast', { time: <Time at={usedAt} /> }) : t('neverUsed')}
        </div>
        {end.error && <ProblemNote error={end.error} />}
      </div>
      <Button
        variant="quiet"
        size="sm"
        disabled={end.isPending}
        aria-label={t('endNamed', { name })}
        onClick={() => end.mutate(id, { onSuccess: () => notice({ words: t('isEnded', { name }) }) })}
      >
        {t('endIt')}
      </Button>
    </li>
  );
}

const shape = tokenSchema.extend({ days: typedWhole(tokenSchema.shape.days) });

function Making({ onDone, onMade }: { onDone: () => void; onMade: (made: Made) => void }) {
  const make = useMakeToken();
  const sending = useSending({
    shape,
    start: { name: '', scope: 'read', days: '90' },
    send: async (read) => ({ name: read.name, token: (await make.mutateAsync(read)).token }),
    onSent: onMade,
  });
  return (
    <SendForm sending={sending} className="group-editor">
      <div className="two-fields">
        <TextField sending={sending} name="name" label={t('name')} autoFocus />
        <SelectField
          sending={sending}
          name="scope"
          label={t('scope')}
          options={[
            ['read', t('scope.read')],
            ['write', t('scope.write')],
          ]}
        />
        <TextField sending={sending} name="days" label={t('days')} inputMode="numeric" />
      </div>
      <Refused sending={sending} />
      <Ends sending={sending} words={t('makeIt')} leave={t('leaveIt')} onLeave={onDone} />
    </SendForm>
  );
}
