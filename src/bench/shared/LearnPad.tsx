'use client';

import { plural } from '@/core/plurals';
import { useState } from 'react';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { useRecording } from '../recording/context';

interface LearnPadProps {
  /** Before the choice: “Give a pad to”. */
  words: string;
  label: string;
  placeholder: string;
  choices: readonly { value: string; text: string }[];
  /** How many pads were learnt. */
  known: number;
  onLearn: (value: string, key: number) => void;
  onForget: () => void;
}

/** What a pad of the device stands for: chosen, then struck. */
export function LearnPad({ words, label, placeholder, choices, known, onLearn, onForget }: LearnPadProps) {
  const { recorder } = useRecording();
  const [waiting, setWaiting] = useState<string | null>(null);
  const learn = (value: string) => {
    setWaiting(value);
    recorder.learnPad((key) => {
      onLearn(value, key);
      setWaiting(null);
    });
  };
  return (
    <div className="flex flex-wrap items-baseline gap-2">
      <span>{waiting ? `Strike the pad for ${choices.find((c) => c.value === waiting)?.text.toLowerCase() ?? ''} …` : words}</span>
      {waiting ? (
        <Button
          size="small"
          onClick={() => {
            recorder.learnPad(null);
            setWaiting(null);
          }}
        >
          Cancel
        </Button>
      ) : (
        <Picker label={label} value="" choices={choices} onChange={learn} placeholder={placeholder} />
      )}
      {known > 0 && !waiting && (
        <button type="button" className="text-sm underline underline-offset-2" onClick={onForget}>
          forget {known} {plural(known, 'pad')}
        </button>
      )}
    </div>
  );
}
