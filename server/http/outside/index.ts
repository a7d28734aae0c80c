import express, { Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { LIMITS } from '../../../contract/limits.ts';
import { Refusal } from '../../../contract/problems.ts';
import type { Context } from '../context.ts';
import { acknowledgePages } from './acknowledge.ts';
import { againPages } from './again.ts';
import { calendarFeeds } from './calendars.ts';
import { contactPages } from './contacts.ts';
import { formPages } from './forms.ts';
export { runningRoutes } from './running.ts';
import { houseLogin } from './house-login.ts';
import { mailFrame } from './mail-frame.ts';
import { shortLinks } from './short.ts';
import { incomingTexts } from './texts.ts';

/** Whoever sends forms by a program is slowed down. */
const formLimit = () =>
  rateLimit({
    windowMs: 60_000,
    limit: 60,
    standardHeaders: true,
    legacyHeaders: false,
    handler: () => {
      throw new Refusal('tooMany');
    },
  });

/** What opens without an account: the pages behind signed links, and the door by which texts come back. */
export function outsideRoutes(context: Context): Router {
  const routes = Router();
  const limit = rateLimit({
    windowMs: 60_000,
    limit: 240,
    standardHeaders: true,
    legacyHeaders: false,
    handler: () => {
      throw new Refusal('tooMany');
    },
  });
  routes.use(
    ['/acknowledge', '/again', '/confirm', '/message', '/leave', '/quiet'],
    limit,
    express.urlencoded({ extended: false, limit: LIMITS.outsideBytes }),
    express.text({ type: 'multipart/form-data', limit: LIMITS.outsideBytes }),
  );
  routes.use('/form', formLimit(), express.urlencoded({ extended: false, limit: LIMITS.formBytes }));
  routes.use(['/calendar', '/t', '/sign-in'], limit);
  routes.use('/gateway', limit, express.json({ limit: LIMITS.outsideBytes }));
  routes.use(
    acknowledgePages(context),
    againPages(context),
    contactPages(context),
    formPages(context),
    houseLogin(context),
    mailFrame(),
    shortLinks(context),
    calendarFeeds(context),
    incomingTexts(context),
  );
  return routes;
}
