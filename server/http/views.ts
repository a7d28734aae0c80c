import { Router } from 'express';
import { type View, viewSchema } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { addViewQuery, newId, removeViewQuery, type Row, rows, run, viewsQuery, fromJson } from '../store/index.ts';
import { caller, type Context, param, take } from './context.ts';
import { visibleSources } from './items.ts';

/** Filtered views of a source that somebody gave a name; everybody who sees the source sees them. */
export function viewRoutes({ pool, clock }: Context): Router {
  const routes = Router();

  routes.get('/sources/:source/views', async (request, response) => {
    response.json((await rows(pool, viewsQuery(param(request, 'source')))).map(toView));
  });

  routes.post('/sources/:source/views', async (request, response) => {
    const { me, directory } = caller(response);
    const source = param(request, 'source');
    if (!visibleSources(me.id, directory).some((one) => one.id === source)) throw new Refusal('notFound');
    const { name, asked } = take(viewSchema, request.body);
    const now = clock.now();
    const view: View = { id: newId(now), name, owner: me.id, asked };
    await run(pool, addViewQuery(source, view, now));
    response.status(201).json(view);
  });

  routes.delete('/views/:id', async (request, response) => {
    const { me } = caller(response);
    const done = await run(pool, removeViewQuery(param(request, 'id'), me.role === 'steward' ? null : me.id));
    if (done.affectedRows === 0)
      throw new Refusal('notAllowed', { detail: 'A view is taken away by whoever named it.' });
    response.status(204).end();
  });

  return routes;
}

const toView = (row: Row): View => ({
  id: String(row.id),
  name: String(row.name),
  owner: String(row.owner_id),
  asked: fromJson<View['asked']>(row.asked),
});
