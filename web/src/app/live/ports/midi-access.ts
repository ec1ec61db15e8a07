/** How far connecting real devices has come. */
export type MidiAccessState = 'not asked' | 'asking' | 'connected' | 'refused' | 'not supported';

/** What the player has to know of it, in few words and in full; null while there is nothing to be done. */
export function midiInWords(state: MidiAccessState): { short: string; long: string } | null {
  switch (state) {
    case 'asking':
      return {
        short: 'Browser asks for MIDI',
        long: 'The browser asks whether this page may use MIDI devices: answer it at the top of the window. Until then no real device is heard.',
      };
    case 'refused':
      return {
        short: 'MIDI refused',
        long: 'The browser was told not to let this page use MIDI devices: allow them beside the address, then load the page anew. Stand-ins, screen and computer keys play on.',
      };
    default:
      return null;
  }
}
