import { NamedError } from '@/core/errors';
import { shortName } from '@/core/limits';
import { readFeelFile, FEEL_FILE_ENDING } from '@/formats/feel-format';
import { readGrooveFile } from '@/formats/groove-format';
import { FILE_WORDS, kindOfFile, type FileKind } from '@/formats/kind-of-file';
import { readKitFile } from '@/formats/kit-format';
import { readPatternFile } from '@/formats/pattern-format';
import { readOutputMapFile } from '@/formats/output-map-format';
import { readPartFile, type PartFile } from '@/formats/part-file';
import { feelStore, type FeelStore } from './feel-store';
import { grooveStore, keptNow, type GrooveStore } from './groove-store';
import { kitStore, type KitStore } from './kit-store';
import { patternStore, type PatternStore } from './pattern-store';
import { outputMapStore, type OutputMapStore } from './output-map-store';
import { AS_IMPORTED } from '@/formats/version-origin';
import { wholeParts, type WholeParts } from './whole-part';

/** What was brought in, and where it went. */
export interface BroughtIn {
  kind: FileKind;
  name: string;
  /** Of a part or a groove. */
  id?: string;
}

interface Stores {
  parts: WholeParts;
  grooves: GrooveStore;
  feels: FeelStore;
  kits: KitStore;
  patterns: PatternStore;
  targets: OutputMapStore;
}

const STORES: Stores = {
  parts: wholeParts,
  grooves: grooveStore,
  feels: feelStore,
  kits: kitStore,
  patterns: patternStore,
  targets: outputMapStore,
};

/** A part file that has no version of how it came gets one: what is done from now on can be compared with it. */
export const asImported = (whole: PartFile): PartFile =>
  whole.versions?.some((v) => v.origin === 'import')
    ? whole
    : { ...whole, versions: [{ name: AS_IMPORTED, origin: 'import', at: Date.now(), part: whole.part }, ...(whole.versions ?? [])] };

/**
 * Takes one of our own files to where its kind belongs, wherever it was dropped.
 * @throws NamedError not-ours, bad-part, bad-groove, bad-feel, bad-kit, bad-pattern, bad-target, store-full, store-refused
 */
export async function bringIn(text: string, fileName: string, stores: Stores = STORES): Promise<BroughtIn> {
  const kind = kindOfFile(text);
  switch (kind) {
    case 'part': {
      const whole = readPartFile(text);
      return { kind, name: whole.part.name, id: await stores.parts.create(asImported(whole)) };
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
      const target = readOutputMapFile(text);
      await stores.targets.save(target);
      return { kind, name: target.name };
    }
    case null:
      throw new NamedError('not-ours');
  }
}

/** @example broughtWords({ kind: 'feel', name: 'Late' }) // 'Late is a whole feel: it is among yours now.' */
export const broughtWords = ({ kind, name }: BroughtIn): string =>
  `${name} is ${FILE_WORDS[kind]}: it is ${kind === 'part' ? 'on the Shelf' : 'among yours'} now.`;
