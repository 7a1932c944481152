'use client';

import { useEffect, useRef, useState } from 'react';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { say, sayWith, showError } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { useBenchStore } from '../store/context';
import { EXPORTERS, firstChosen, offeredOf, optionsOf } from './export/all';
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
  const [chosen, setChosen] = useState(() => firstChosen(offered, source, last));
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
  const isOpen = useRef(true);
  useEffect(() => {
    isOpen.current = true;
    return () => {
      isOpen.current = false;
      // It goes on behind the Bench: what was asked for is not dropped without a word.
      const running = job.current;
      if (running) sayWith('The export goes on in the background.', 'Stop', () => running.abort());
    };
  }, []);
  /** Why this cannot be exported, as far as it is known before it is tried. */
  const [found, setFound] = useState<{ of: string; refusal: string | null }>({ of: '', refusal: null });
  const refusal = exporter?.refusal?.(source, options) ?? (found.of === chosen ? found.refusal : null);

  const run = async () => {
    if (!exporter) return;
    const controller = new AbortController();
    job.current = controller;
    setSaid(null);
    setDone(0);
    try {
      const exported = await exporter.run(source, options, {
        signal: controller.signal,
        onProgress: (share) => !controller.signal.aborted && setDone(share),
      });
      if (controller.signal.aborted) return;
      if (exported.empty !== undefined) return setFound({ of: exporter.id, refusal: exported.empty });
      const where = await deliver(exported);
      rememberExport(source.id, exporter.id, options, optionsOf(exporters, source));
      if (isOpen.current) setSaid([...exported.said, where]);
      else say(where);
    } catch (e) {
      if (!controller.signal.aborted) showError(e);
    } finally {
      if (job.current === controller) {
        job.current = null;
        setDone(null);
      }
    }
  };
  const stop = () => {
    job.current?.abort();
    setDone(null);
  };

  return (
    <Modal open onClose={onClose} title="Export" about="What you hear is what is written: the same performed hits.">
      <p className="leading-8">
        Export{' '}
        <Picker
          label="What to export"
          value={chosen ?? ''}
          choices={offered.map((e) => ({ value: e.id, text: e.title }))}
          onChange={choose}
        />
        <span className="text-faint"> {exporter?.about}.</span>
      </p>
      {Options && (
        <div className="leading-8">
          <Options source={source} options={options} onChange={(change) => setOptions({ ...options, ...change })} />
        </div>
      )}
      {exporter?.isQuick && (
        <FilePicture exporter={exporter} source={source} options={options} onReady={(why) => setFound({ of: exporter.id, refusal: why })} />
      )}
      {refusal && (
        <p role="status" data-testid="export-refusal" className="mt-3 text-danger">
          {refusal}
        </p>
      )}
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
        <Button look="strong" disabled={done !== null || refusal !== null} onClick={() => void run()}>
          Export
        </Button>
      </div>
    </Modal>
  );
}
