import { Router } from 'express';
import { MOST_LOOKS, titleStyleBody, type KeptTitleStyle } from '@tender-orbit/core/contract';
import { newPromo, newTitle, styleOf, validateDocument, type TitleStyle } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import type { Database } from '../database/index.ts';
import { notFound, personOf } from '../http/index.ts';
import { newId } from '../ids.ts';

/** Styles of titles that a person keeps: nobody else sees them. */
export function titleStyleRoutes({ db }: { db: Database }): Router {
  const router = Router();

  router.get('/title-styles', async (req, res) => {
    const rows = await db.rows<{ id: string; name: string; style: string }>(
      'SELECT id, name, style FROM title_styles WHERE person_id = ? ORDER BY created_at, id',
      [personOf(req)],
    );
    res.json(rows.map(({ id, name, style }): KeptTitleStyle => ({ id, name, style: JSON.parse(style) as TitleStyle })));
  });

  router.post('/title-styles', async (req, res) => {
    const { name, style: sent } = await titleStyleBody.validate(req.body ?? {});
    const person = personOf(req);
    // A style is sound where a title in it is.
    const title = { ...newTitle('title'), ...sent };
    const [sound] = validateDocument('promo', { ...newPromo('Styles', 960, 540), titles: [title] }).titles;
    const style = styleOf(sound);
    const { count } = (await db.one<{ count: number }>(
      'SELECT COUNT(*) AS count FROM title_styles WHERE person_id = ?',
      [person],
    ))!;
    if (Number(count) >= MOST_LOOKS)
      throw new Problem('style/many', `${MOST_LOOKS} styles are kept already: delete one first.`, name);
    const id = newId();
    await db.run('INSERT INTO title_styles (id, person_id, name, style) VALUES (?, ?, ?, ?)', [
      ...[id, person, name, JSON.stringify(style)],
    ]);
    res.status(201).json({ id, name, style } satisfies KeptTitleStyle);
  });

  router.delete('/title-styles/:id', async (req, res) => {
    const { id } = req.params;
    if ((await db.run('DELETE FROM title_styles WHERE id = ? AND person_id = ?', [id, personOf(req)])) === 0)
      throw notFound('style');
    res.status(204).end();
  });
  return router;
}
