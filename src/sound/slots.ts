import type { Hit } from '@/core/model/part';
import { writtenId } from '@/core/song/sounding';
import { placeOfId } from '@/core/song/unroll';

/** Numbers for hits and the strokes of their ornaments that stay the same from program to program. */
export class HitNumbers {
  private readonly numbers = new Map<string, number>();
  /** The written hits, by number. */
  readonly ids: string[] = [];
  of = (hit: Hit, stroke: number): number => {
    const name = stroke === 0 ? hit.id : `${hit.id} ${stroke}`;
    let n = this.numbers.get(name);
    if (n === undefined) {
      n = this.ids.push(writtenId(placeOfId(hit.id).id)) - 1;
      this.numbers.set(name, n);
    }
    return n;
  };
}
