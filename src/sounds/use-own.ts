'use client';

import { useStore } from 'zustand';
import type { OwnSounds } from '@/core/model/own-sound';
import { ownSounds } from './own';

/** The user's own sounds, as they are looked up. */
export const useOwnSounds = (): OwnSounds => useStore(ownSounds, (s) => s.lookup);
