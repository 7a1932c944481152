import type { ClockSource } from './clock-source';
import type { InputDevice } from './input';
import { readMessage } from './input';
import type { OutputDevice } from './output';

/** The ports that the browser shows, or why it shows none. */
export type MidiPorts =
  | { kind: 'ports'; inputs: InputDevice[]; clocks: ClockSource[]; outputs: OutputDevice[]; onChange: (listener: () => void) => () => void }
  | { kind: 'refused'; why: string };

let asked: Promise<MidiPorts> | null = null;

/** Asks the browser for MIDI, once a visit; it may ask the user. */
export function midiPorts(again = false): Promise<MidiPorts> {
  if (!asked || again) asked = ask();
  return asked;
}

async function ask(): Promise<MidiPorts> {
  if (typeof navigator === 'undefined' || !('requestMIDIAccess' in navigator))
    return {
      kind: 'refused',
      why: 'This browser has no Web MIDI. Chromium and Firefox have it; computer keys, pads and the practice player work here too.',
    };
  try {
    const access = await navigator.requestMIDIAccess();
    return {
      kind: 'ports',
      inputs: [...access.inputs.values()].map(inputOf),
      clocks: [...access.inputs.values()].map(clockOf),
      outputs: [...access.outputs.values()].map(outputOf),
      onChange: (listener) => {
        access.addEventListener('statechange', listener);
        return () => access.removeEventListener('statechange', listener);
      },
    };
  } catch {
    return {
      kind: 'refused',
      why: 'The browser does not let this page use MIDI. Allow it in the address bar, then ask again; computer keys, pads and the practice player work without it.',
    };
  }
}

const inputOf = (port: MIDIInput): InputDevice => ({
  id: `midi:${port.id}`,
  name: port.name ?? 'MIDI input',
  listen(onEvent) {
    const onMessage = (e: MIDIMessageEvent) => {
      const event = e.data && readMessage(e.data, e.timeStamp);
      if (event) onEvent(event);
    };
    port.addEventListener('midimessage', onMessage);
    void port.open();
    return () => port.removeEventListener('midimessage', onMessage);
  },
});

const clockOf = (port: MIDIInput): ClockSource => ({
  id: `midi:${port.id}`,
  name: port.name ?? 'MIDI input',
  listen(onMessage) {
    const hear = (e: MIDIMessageEvent) => e.data && onMessage(e.data, e.timeStamp);
    port.addEventListener('midimessage', hear);
    void port.open();
    return () => port.removeEventListener('midimessage', hear);
  },
});

const outputOf = (port: MIDIOutput): OutputDevice => ({
  id: `midi:${port.id}`,
  name: port.name ?? 'MIDI output',
  send: (bytes, page) => port.send([...bytes], page),
  clear: () => (port as MIDIOutput & { clear?: () => void }).clear?.(),
});
