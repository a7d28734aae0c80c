import { Tokens } from './tokens.tsx';
import { Reference } from './reference.tsx';
import { t } from '../../words/programs.ts';

const HAND_IN = `curl -X POST ORIGIN/api/changes \\
  -H 'Authorization: Bearer ojo-door-…' \\
  -H 'Content-Type: application/cloudevents+json' \\
  -d '{"specversion": "1.0", "id": "42", "source": "https://desk.example",
       "type": "desk.loan.saved", "subject": "L-12",
       "data": {"title": "Tidal Loom", "state": "On view"}}'`;

/** What programs can ask of Ojo, and by what. */
export const ProgramsPage = () => (
  <main className="page programs">
    <div className="page-head">
      <h1>{t('title')}</h1>
      <span className="quiet">{t('about')}</span>
    </div>
    <Tokens />
    <section>
      <h2>{t('handingIn')}</h2>
      <p className="reading">{t('handingInSays')}</p>
      <pre className="mail-source">{HAND_IN.replace('ORIGIN', location.origin)}</pre>
      <h2>{t('beingTold')}</h2>
      <p className="reading">{t('beingToldSays')}</p>
    </section>
    <Reference />
  </main>
);
