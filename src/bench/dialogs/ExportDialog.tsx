'use client';

import { useEffect, useRef, useState } from 'react';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { showError } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { useBenchStore } from '../store/context';
import { EXPORTERS, offeredOf, optionsOf } from './export/all';
import { deliver } from '@/ui/deliver';
import type { ExporterSpec } from './export/exporter';
import { ExportFolderChoice } from './export/ExportFolderChoice';
import { FilePicture } from './export/FilePicture';
import { sourceOf } from './export/last-export';
import { rememberedExport, rememberExport } from './export/remembered';

/** Takes the part out: as MIDI, as the song with its drums replaced, or as a file that keeps everything. */
export function ExportDialog({ onClose, exporters = EXPORTERS }: { onClose: () => void; exporters?: readonly ExporterSpec[] }) {
  const { getState } = useBenchStore();
  const [source] = useState(() => sourceOf(getState()));
  const offered = offeredOf(exporters, source);
  // As it was done last, as far as that fits.
  const [last] = useState(() => rememberedExport(source.id, optionsOf(exporters, source)));
  const [chosen, setChosen] = useState(offered.find((e) => e.id === last.chosen)?.id ?? offered[0]?.id);
  const [options, setOptions] = useState(last.options);
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
      const exported = await exporter.run(source, options, { signal: controller.signal, onProgress: (share) => !controller.signal.aborted && setDone(share) });
      if (controller.signal.aborted) return;
      const where = await deliver(exported);
      rememberExport(source.id, exporter.id, options, optionsOf(exporters, source));
      setSaid([...exported.said, where]);
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
      {exporter?.isQuick && <FilePicture exporter={exporter} source={source} options={options} />}
      {said && (
        <div role="status" data-testid="export-account" className="mt-4 rounded-md border border-strong px-4 py-2">
          {said.map((line) => (
            <p key={line}>{line}</p>
          ))}
        </div>
      )}
      <ExportFolderChoice />
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
