import { describeChanges } from '@/core/analysis/changes';
import { shortName } from '@/core/limits';
import { PART_FILE_ENDING, readPartFile, writePartFile, type PartFile } from '@/formats/part-file';
import { DeletedStore } from '@/storage/deleted-store';
import { WholeParts } from '@/storage/whole-part';
import { besideName, saysTheSame, type Kind } from './kind';

/** When the same file was imported makes no difference. */
const comparable = (whole: PartFile): unknown =>
  JSON.parse(writePartFile({ ...whole, versions: (whole.versions ?? []).map((v) => (v.origin === 'import' ? { ...v, at: 0 } : v)) }));

/** What another state of a part has otherwise, in words. */
function differsIn(mine: PartFile, theirs: PartFile): string {
  const beside = (['versions', 'takes', 'ideas'] as const).filter(
    (what) => !saysTheSame((comparable(mine) as PartFile)[what] ?? [], (comparable(theirs) as PartFile)[what] ?? []),
  );
  const changes = saysTheSame(mine.part, theirs.part) ? [] : [describeChanges(mine.part, theirs.part).replace(/\.$/, '')];
  const all = [...changes, ...(beside.length > 0 ? [`other ${beside.join(', ')}`] : [])];
  return all.length > 0 ? all.join('; ') : 'other tags';
}

/** Parts, each with its versions, takes, ideas and song. Their steps back stay here. */
export const partKind: Kind = {
  kind: 'part',
  async here({ db }, only) {
    const whole = new WholeParts(db);
    const rows = (await whole.parts.list()).filter((row) => !only || only.has(row.id));
    return rows.map(({ id, name, createdAt, updatedAt, about, tags }) => ({
      entry: { kind: 'part', key: id, name, createdAt, updatedAt, ...(about ? { about } : {}), ...(tags?.length ? { tags } : {}) },
      folder: 'parts',
      ending: PART_FILE_ENDING,
      data: async () => ({ file: writePartFile(await whole.read(id)) }),
    }));
  },
  async look({ db }, { key, file, tags = [] }, from) {
    const row = await db.parts.get(key);
    const theirs = readPartFile(await from.text(file));
    if (!row) return { standing: 'new' };
    // What is here and does not read is no reason to keep the other away.
    const mine = await new WholeParts(db).read(key).catch(() => null);
    const same = mine !== null && saysTheSame(comparable(mine), comparable(theirs)) && saysTheSame(row.tags ?? [], tags);
    return same
      ? { standing: 'same' }
      : { standing: 'different', updatedAt: row.updatedAt, differs: mine ? differsIn(mine, theirs) : 'yours can no longer be read' };
  },
  async take({ db }, { key, file, createdAt, updatedAt, about, tags }, from, how) {
    const whole = readPartFile(await from.text(file));
    const parts = new WholeParts(db);
    // What is replaced goes into the drawer.
    if (how === 'replace') await new DeletedStore(db).remove([key]);
    const isFree = how !== 'beside' && !(await parts.parts.has(key));
    const names = isFree ? null : new Set((await parts.parts.list()).map((row) => row.name));
    const part = names ? { ...whole.part, name: shortName(besideName(whole.part.name, (n) => names.has(n))) } : whole.part;
    const gone = isFree ? await db.deleted.get(key) : undefined;
    const id = await parts.create(
      { ...whole, part },
      { ...(isFree ? { id: key } : {}), ...(gone ? { head: gone.row.head + 1 } : {}), ...(about ? { about } : {}) },
    );
    await db.parts.update(id, {
      ...(createdAt === undefined ? {} : { createdAt }),
      ...(updatedAt === undefined ? {} : { updatedAt }),
      ...(tags ? { tags: [...tags] } : {}),
    });
  },
};
