'use client';

import { useEffect, useRef, useState } from 'react';
import { Button } from '@/ui/Button';
import { download } from '@/ui/download';
import { Modal } from '@/ui/Modal';
import { showError } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { useBenchStore } from '../store/context';
import { EXPORTERS, offeredOf, optionsOf } from './export/all';
import type { ExporterSpec, Source } from './export/exporter';
import type { BenchState } from '../store/bench-store';

/** What is open on the Bench, as it is taken out. */
function sourceOf({ id, part, hasSong, idea, ideas }: BenchState): Source {
  const letter = ideas.find((i) => i.id === idea)?.letter;
  return letter === undefined ? { id, part, hasSong } : { id, part: { ...part, name: `${part.name}, idea ${letter}` }, hasSong: false, isIdea: true };
}

/** Takes the part out: as MIDI, as the song with its drums replaced, or as a file that keeps everything. */
export function ExportDialog({ onClose, exporters = EXPORTERS }: { onClose: () => void; exporters?: readonly ExporterSpec[] }) {
  const { getState } = useBenchStore();
  const source = sourceOf(getState());
  const offered = offeredOf(exporters, source);
  const [chosen, setChosen] = useState(offered[0]?.id);
  const [options, setOptions] = useState(() => optionsOf(exporters, source));
  const [said, setSaid] = useState<readonly string[] | null>(null);
  const exporter = offered.find((e) => e.id === chosen);
  const Options = exporter?.Options;
  const choose = (id: string) => {
    setChosen(id);
    setSaid(null);
  };

  // How far long work is; what ends it when it is no longer wanted.
  const [done, setDone] = useState<number | null>(null);
  const job = useRef<AbortController | null>(null);
  useEffect(() => () => job.current?.abort(), []);

  const run = async () => {
    if (!exporter) return;
    const controller = new AbortController();
    job.current = controller;
    setSaid(null);
    setDone(0);
    try {
      const { data, fileName, type, said } = await exporter.run(source, options, { signal: controller.signal, onProgress: (share) => !controller.signal.aborted && setDone(share) });
      if (controller.signal.aborted) return;
      download(data, fileName, type);
      setSaid(said);
    } catch (e) {
      if (!controller.signal.aborted) showError(e);
    } finally {
      if (job.current === controller) setDone(null);
    }
  };
  const stop = () => {
    job.current?.abort();
    setDone(null);
  };

  return (
    <Modal open onClose={onClose} title="Export" about="What you hear is what is written: the same performed hits.">
      <p className="leading-8">
        Export <Picker label="What to export" value={chosen ?? ''} choices={offered.map((e) => ({ value: e.id, text: e.title }))} onChange={choose} />
        <span className="text-faint"> {exporter?.about}.</span>
      </p>
      {Options && (
        <div className="leading-8">
          <Options source={source} options={options} onChange={(change) => setOptions({ ...options, ...change })} />
        </div>
      )}
      {said && (
        <div role="status" data-testid="export-account" className="mt-4 rounded-md border border-strong px-4 py-2">
          {said.map((line) => (
            <p key={line}>{line}</p>
          ))}
        </div>
      )}
      <div className="mt-5 flex justify-end gap-2">
        {done !== null && <progress aria-label="Export" className="mr-auto w-40 self-center accent-accent" max={1} value={done} />}
        <Button onClick={done === null ? onClose : stop}>{done !== null ? 'Stop' : said ? 'Close' : 'Cancel'}</Button>
        <Button look="strong" disabled={done !== null} onClick={() => void run()}>
          Export
        </Button>
      </div>
    </Modal>
  );
}
