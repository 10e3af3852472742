import { Router } from 'express';
import { lookBody, MOST_LOOK_LAYERS, MOST_LOOKS, type KeptLook } from '@tender-orbit/core/contract';
import { migrate, validateDocument, type ShotDocument } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import type { AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { notFound, personOf } from '../http/index.ts';
import { newId } from '../ids.ts';

interface LookContext {
  db: Database;
  assets: AssetStore;
}

/** Looks that a person keeps: nobody else sees them. */
export function lookRoutes({ db, assets }: LookContext): Router {
  const router = Router();

  router.get('/looks', async (req, res) => {
    const rows = await db.rows<{ id: string; name: string; document: string }>(
      'SELECT id, name, document FROM looks WHERE person_id = ? ORDER BY created_at, id',
      [personOf(req)],
    );
    const looks = rows.map(({ id, name, document }): KeptLook => ({
      id,
      name,
      look: migrate('shot', JSON.parse(document) as ShotDocument),
    }));
    res.json(looks);
  });

  router.post('/looks', async (req, res) => {
    const { name, look: sent } = await lookBody.validate(req.body ?? {});
    const person = personOf(req);
    const look = validateDocument('shot', sent);
    if (look.layers.length === 0 || look.layers.length > MOST_LOOK_LAYERS)
      throw new Problem(
        'look/size',
        `A look has 1 to ${MOST_LOOK_LAYERS} layers, "${name}" has ${look.layers.length}: keep fewer of them.`,
        name,
      );
    const { count } = (await db.one<{ count: number }>('SELECT COUNT(*) AS count FROM looks WHERE person_id = ?', [
      person,
    ]))!;
    if (Number(count) >= MOST_LOOKS)
      throw new Problem('look/many', `${MOST_LOOKS} looks are kept already: delete one first.`, name);
    const id = newId();
    await db.transaction(async (statements) => {
      await statements.run('INSERT INTO looks (id, person_id, name, document) VALUES (?, ?, ?, ?)', [
        ...[id, person, name, JSON.stringify(look)],
      ]);
      await assets.setUses(statements, 'look', id, look, person);
    });
    res.status(201).json({ id, name, look } satisfies KeptLook);
  });

  router.delete('/looks/:id', async (req, res) => {
    const { id } = req.params;
    const gone = await db.transaction(async (statements) => {
      const count = await statements.run('DELETE FROM looks WHERE id = ? AND person_id = ?', [id, personOf(req)]);
      if (count > 0) await assets.clearUses(statements, 'look', id);
      return count;
    });
    if (gone === 0) throw notFound('look');
    res.status(204).end();
  });
  return router;
}
