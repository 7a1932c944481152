import { nanoid } from 'nanoid';
import { withTakeIds } from '@/core/take/use-take';
import { NamedError } from '@/core/errors';
import { shortName } from '@/core/limits';
import { readFeelFile, FEEL_FILE_ENDING } from '@/formats/feel-format';
import { readGrooveFile } from '@/formats/groove-format';
import { FILE_WORDS, kindOfFile, type FileKind } from '@/formats/kind-of-file';
import { readKitFile } from '@/formats/kit-format';
import { readPatternFile } from '@/formats/pattern-format';
import { readTargetFile } from '@/formats/target-format';
import { readPartFile } from '@/formats/part-file';
import { feelStore, type FeelStore } from './feel-store';
import { grooveStore, keptNow, type GrooveStore } from './groove-store';
import { kitStore, type KitStore } from './kit-store';
import { partStore, type PartStore } from './part-store';
import { patternStore, type PatternStore } from './pattern-store';
import { takeStore, type TakeStore } from './take-store';
import { targetStore, type TargetStore } from './target-store';
import { versionStore, type VersionStore } from './version-store';

/** What was brought in, and where it went. */
export interface BroughtIn {
  kind: FileKind;
  name: string;
  /** Of a part or a groove. */
  id?: string;
}

interface Stores {
  parts: PartStore;
  versions: VersionStore;
  takes: TakeStore;
  grooves: GrooveStore;
  feels: FeelStore;
  kits: KitStore;
  patterns: PatternStore;
  targets: TargetStore;
}

const STORES: Stores = { parts: partStore, versions: versionStore, takes: takeStore, grooves: grooveStore, feels: feelStore, kits: kitStore, patterns: patternStore, targets: targetStore };

/**
 * Takes one of our own files to where its kind belongs, wherever it was dropped.
 * @throws NamedError not-ours, bad-part, bad-groove, bad-feel, bad-kit, bad-pattern, bad-target, store-full, store-refused
 */
export async function bringIn(text: string, fileName: string, stores: Stores = STORES): Promise<BroughtIn> {
  const kind = kindOfFile(text);
  switch (kind) {
    case 'part': {
      const { part, song, versions = [], takes = [] } = readPartFile(text);
      // Takes of its own, so that a file may be brought in twice.
      const ids = new Map(takes.map(({ take }) => [take.id, nanoid(10)]));
      const id = await stores.parts.create(withTakeIds(part, ids), song ? { song } : {});
      for (const v of versions) await stores.versions.keep(id, v.name, withTakeIds(v.part, ids), v.at);
      for (const { take, events } of takes) await stores.takes.put(id, { ...take, id: ids.get(take.id) ?? take.id }, events);
      return { kind, name: part.name, id };
    }
    case 'groove': {
      const kept = keptNow(readGrooveFile(text));
      await stores.grooves.put(kept);
      return { kind, name: kept.groove.name, id: kept.id };
    }
    case 'feel': {
      const name = shortName(fileName.replace(FEEL_FILE_ENDING, '').replace(/\.json$/, '')) || 'Feel';
      await stores.feels.save({ name, feel: readFeelFile(text) });
      return { kind, name };
    }
    case 'kit': {
      const kit = readKitFile(text);
      await stores.kits.save(kit);
      return { kind, name: kit.name };
    }
    case 'pattern': {
      const pattern = readPatternFile(text);
      await stores.patterns.save({ name: pattern.name, pattern });
      return { kind, name: pattern.name };
    }
    case 'target': {
      const target = readTargetFile(text);
      await stores.targets.save(target);
      return { kind, name: target.name };
    }
    case null:
      throw new NamedError('not-ours');
  }
}

/** @example broughtWords({ kind: 'feel', name: 'Late' }) // 'Late is a whole feel: it is among yours now.' */
export const broughtWords = ({ kind, name }: BroughtIn): string => `${name} is ${FILE_WORDS[kind]}: it is ${kind === 'part' ? 'on the shelf' : 'among yours'} now.`;
