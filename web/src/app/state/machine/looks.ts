import * as z from 'zod';

const KEY = 'pentachord look';
/** Versions of Showtime, in the order in which they are gone through. */
export const LOOKS = ['dark', 'dim', 'bright'] as const;
export type Look = (typeof LOOKS)[number];

/** The version chosen last on this machine. */
export function rememberedLook(): Look {
  try {
    return z.enum(LOOKS).safeParse(localStorage.getItem(KEY)).data ?? 'dark';
  } catch {
    return 'dark';
  }
}

/** Remembers the version; a browser that keeps nothing begins dark next time. */
export function rememberLook(look: Look): void {
  try {
    localStorage.setItem(KEY, look);
  } catch {
    // It holds as long as the page is open.
  }
}
