'use client';

import { Moon, Sun } from 'lucide-react';
import { useTheme } from 'next-themes';
import { useSyncExternalStore } from 'react';
import { IconButton } from './Button';

const noChange = () => () => {};

export function ThemeToggle() {
  const { resolvedTheme, setTheme } = useTheme();
  // The server cannot know the theme: the picture appears with the first client render.
  const onClient = useSyncExternalStore(
    noChange,
    () => true,
    () => false,
  );
  const dark = onClient && resolvedTheme === 'dark';
  return (
    <IconButton label={dark ? 'Light theme' : 'Dark theme'} onClick={() => setTheme(dark ? 'light' : 'dark')}>
      {dark ? <Sun size={17} /> : <Moon size={17} />}
    </IconButton>
  );
}
