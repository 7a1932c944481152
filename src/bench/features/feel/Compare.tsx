'use client';

import { memo } from 'react';
import { READY_FEELS } from '@/core/moves/ready-feels';
import { setFeel } from '@/core/commands/moves';
import { restoreVersion } from '@/core/commands/settings';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../../store/context';
import { useFeels } from '../../store/use-feels';
import { useVersions } from '../../store/use-versions';

/** Another feel at the same moment of the loop: held to hear it, at equal loudness if wished. */
export const Compare = memo(function Compare() {
  const { getState } = useBenchStore();
  const other = useBench((s) => s.ui.other);
  const equal = useBench((s) => s.ui.equalLoudness);
  const heard = useBench((s) => s.transport.version === 'other');
  const own = useFeels();
  const versions = useVersions(useBench((s) => s.id));
  const isVersion = other?.id !== undefined && versions.some((v) => v.id === other.id);
  const aside =
    other &&
    !isVersion &&
    (other.part !== undefined || (!READY_FEELS.some((r) => r.name === other.name) && !own.some((k) => k.name === other.name)));
  const choose = (name: string) => {
    if (name === 'nothing') return getState().setUi({ other: null });
    if (name === 'now') return getState().setUi({ other: { name: 'the feel as it was', feel: getState().part.feel } });
    const version = versions.find((v) => v.id === name);
    if (version) return getState().setUi({ other: { id: version.id, name: version.name, feel: version.part.feel, part: version.part } });
    const found = READY_FEELS.find((r) => r.name === name) ?? own.find((k) => k.name === name);
    if (found) getState().setUi({ other: { name: found.name, feel: found.feel } });
  };
  const swap = () => {
    if (!other) return;
    const mine = getState().part.feel;
    const { part: version } = other;
    if (version) {
      getState().run(`Restore ${other.name}`, (p) => restoreVersion(p, version));
      return getState().setUi({ other: null, openMove: null });
    }
    getState().run(`Use ${other.name}`, (p) => setFeel(p, other.feel));
    getState().setUi({ other: { name: 'the feel as it was', feel: mine }, openMove: null });
  };
  return (
    <section aria-label="Compare" className="border-t border-line pt-2">
      <div className="flex flex-wrap items-baseline gap-1 leading-8">
        Compare with{' '}
        <Picker
          label="Compare with"
          value={other ? (isVersion ? (other.id as string) : aside ? 'aside' : other.name) : 'nothing'}
          choices={[
            { value: 'nothing', text: 'nothing' },
            { value: 'now', text: 'this feel as it is now' },
            ...(aside ? [{ value: 'aside', text: other.name }] : []),
            ...versions.map((v) => ({ value: v.id, text: `the version ${v.name}` })),
            ...READY_FEELS.map((r) => ({ value: r.name, text: r.name })),
            ...own.map((k) => ({ value: k.name, text: k.name })),
          ]}
          onChange={choose}
        />
        {other && (
          <>
            <span className={`text-sm ${heard ? 'text-accent' : 'text-faint'}`}>hold Shift Q</span>
            <Button size="small" onClick={swap}>
              Use it
            </Button>
          </>
        )}
      </div>
      <label className="flex items-center gap-1.5 text-sm">
        <input
          type="checkbox"
          className="accent-accent"
          checked={equal}
          onChange={(e) => getState().setUi({ equalLoudness: e.target.checked })}
        />{' '}
        at equal loudness (W and Shift Q)
      </label>
      {equal && <p className="text-sm text-faint">Levels are matched by velocity and number of hits, without measuring the sound.</p>}
    </section>
  );
});
