import { eq } from 'drizzle-orm';
import { house, person, room, vessel } from '../../db/schema/index.js';
import { refused } from '../refused.js';
import type { Handler } from '../handler.js';

export const houseFound: Handler<'house.found'> = async ({ tx, body }) => {
  const [already] = await tx.select().from(house);
  if (already) throw refused('name.taken', `This ledger belongs to ${already.name} already. One ledger keeps one house.`, { field: 'name' });
  await tx.insert(house).values({ id: 1, ...body });
  return {};
};

export const personAdd: Handler<'person.add'> = async ({ tx, body }) => {
  await tx.insert(person).values({ id: body.personId, name: body.name, initials: body.initials, role: body.role });
  return {};
};

export const roomAdd: Handler<'room.add'> = async ({ tx, body }) => {
  await tx.insert(room).values({ id: body.roomId, name: body.name, usualCelsius: body.usualCelsius, position: body.position });
  return {};
};

export const vesselAdd: Handler<'vessel.add'> = async ({ tx, body }) => {
  const { vesselId, ...row } = body;
  await tx.insert(vessel).values({ id: vesselId, ...row });
  return {};
};

export const vesselClean: Handler<'vessel.clean'> = async ({ tx, body, at }) => {
  const changed = await tx.update(vessel).set({ cleanedAt: at }).where(eq(vessel.id, body.vesselId)).returning({ tag: vessel.tag });
  if (changed.length === 0) throw refused('vessel.unknown', `No vessel ${body.vesselId} is known in this house. Choose it from the list.`, { field: 'vesselId' });
  return { facts: { tag: changed[0]!.tag } };
};
