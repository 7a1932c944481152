import type { KitMap } from '@/core/key-map';
import { database, type KitRow, type NodSwayDatabase } from './database';
import { NamedStore } from './named-store';

const rowOf = ({ name, voices }: KitMap): KitRow => ({ name, voices });

/** Keeps key maps by name, for every part. */
export class KitStore extends NamedStore<KitMap> {
  constructor(db: NodSwayDatabase = database) {
    super(db, 'kits', (rows) => (rows as KitRow[]).map(({ name, voices }) => ({ name, voices })), rowOf);
  }
}

export const kitStore = new KitStore();
