import { computed, inject, Injectable, Injector } from '@angular/core';
import type { CueEditing } from '../state/editing/cue-editing';
import { Dialogs } from '../ui/dialogs/dialogs';
import type { ShortcutGroup } from '../ui/dialogs/shortcuts-dialog';
import { LayerSelection } from '../state/session/layer-selection';
import { ArrangedLayers } from './arranged-layers';
import type { RangeActions } from './range-actions';
import { PatchActions } from './patch-actions';
import { PatchDesk } from './patch-desk';

/** Where a command stands in the list under “?”. */
type CommandGroup = 'Ranges of the selected layers' | 'The selected layers' | 'The patch';

/** Something that the Patch view can be told to do: one entry serves its key, its menu and the list of shortcuts. */
export interface PatchCommand {
  words: string;
  group: CommandGroup;
  /** Keys as tinykeys reads them, and as they are shown; empty for a command without. */
  keys: string;
  shown: string;
  /** The menu it stands in. */
  menu?: 'arrange' | 'row' | 'patch';
  icon?: string;
  /** What there is to choose from; each is a key too. */
  choices?: readonly string[];
  /** What there is to choose from, where that depends on the patch. */
  choose?: () => readonly { id: string; name: string }[];
  /** Why it cannot be done now, in a word; an empty text when it can. */
  why: () => string;
  /** Gets the key that was pressed, or the choice. */
  run: (choice: string) => void;
}

/** Into how many parts a layer can be split at once. */
const WAYS = ['2', '3', '4', '5', '6', '7', '8'];

/** Shortcuts that belong to the browser, the shell or single fields. */
const EVERYWHERE: ShortcutGroup = {
  name: 'Everywhere',
  shortcuts: [
    { shown: 'Ctrl Z', words: 'undo' },
    { shown: 'Ctrl Y', words: 'redo' },
    { shown: 'Ctrl C', words: 'copy the selected layers' },
    { shown: 'Ctrl V', words: 'paste layers, here or in another patch' },
    { shown: '↑ ↓', words: 'in a number or on an edge: one step; with Shift ten, or an octave' },
    { shown: 'Ctrl ↑ ↓', words: 'in the ledger: the same place of the row above or below' },
    { shown: 'Ctrl click', words: 'select one more layer; Shift: all up to it' },
    { shown: 'Shift drag', words: 'on an edge: the neighbour’s edge comes along' },
  ],
};

/** The one table of what the Patch view can be told to do. */
@Injectable()
export class PatchCommands {
  private readonly selection = inject(LayerSelection);
  private readonly arrangedLayers = inject(ArrangedLayers);
  private readonly actions = inject(PatchActions);
  private readonly desk = inject(PatchDesk);
  private readonly dialogs = inject(Dialogs);
  private readonly injector = inject(Injector);

  readonly all: readonly PatchCommand[] = [
    this.range('Lowest key: the last one played', 'KeyL', 'L', 1, (ranges) =>
      ranges.atLastKey('low'),
    ),
    this.range('Highest key: the last one played', 'KeyH', 'H', 1, (ranges) =>
      ranges.atLastKey('high'),
    ),
    this.range('Down to my neighbour', 'Shift+KeyU', 'Shift U', 1, (ranges) =>
      ranges.toNeighbour('low'),
    ),
    this.range('Up to my neighbour', 'KeyU', 'U', 1, (ranges) => ranges.toNeighbour('high')),
    this.range('Split in two at the last key played', 'KeyX', 'X', 1, (ranges) =>
      ranges.splitInTwo(),
    ),
    {
      ...this.range(
        'Split evenly in parts',
        WAYS.join(),
        `${WAYS[0]} … ${WAYS.at(-1)}`,
        1,
        (ranges, ways) => ranges.splitInto(Number(ways)),
      ),
      choices: WAYS,
    },
    this.range('Share the keyboard out evenly', 'KeyN', 'N', 2, (ranges) =>
      ranges.shareOut('keys'),
    ),
    this.range('Share the velocities out evenly', 'KeyV', 'V', 2, (ranges) =>
      ranges.shareOut('velocities'),
    ),
    this.range('Keys: close gaps, remove overlaps', 'KeyG', 'G', 2, (ranges) =>
      ranges.makeMeet('keys'),
    ),
    this.range('Velocities: close gaps, remove overlaps', 'Shift+KeyG', 'Shift G', 2, (ranges) =>
      ranges.makeMeet('velocities'),
    ),
    this.range('Keys: overlaps become crossfades', 'Shift+KeyC', 'Shift C', 2, (ranges) =>
      ranges.crossfade('keys'),
    ),
    this.range('Velocities: overlaps become crossfades', 'KeyC', 'C', 2, (ranges) =>
      ranges.crossfade('velocities'),
    ),
    this.layer(
      'move the split down',
      'BracketLeft',
      '[',
      () => void this.withRanges((ranges) => ranges.moveSplit(-1)),
    ),
    this.layer(
      'move the split up',
      'BracketRight',
      ']',
      () => void this.withRanges((ranges) => ranges.moveSplit(1)),
    ),
    this.layer('open it: touch, sound, balance, treatments', 'KeyE', 'E', () => this.desk.open()),
    this.layer('swap its sound', 'KeyW', 'W', (id) => void this.actions.swap(id)),
    this.layer('mute', 'KeyM', 'M', (id) => this.actions.mute(id)),
    this.layer('solo', 'KeyS', 'S', (id) => this.actions.solo(id)),
    this.inRow(
      'Duplicate',
      'copy',
      'KeyD',
      'D',
      (id) => this.actions.duplicate(id),
      this.actions.full,
    ),
    this.inRow(
      'Move up',
      'arrowUp',
      'Alt+ArrowUp',
      'Alt ↑',
      (id) => this.actions.moveBy(id, -1),
      (id) => this.unsorted() || this.actions.whyNotMoved(id, -1),
    ),
    this.inRow(
      'Move down',
      'arrowDown',
      'Alt+ArrowDown',
      'Alt ↓',
      (id) => this.actions.moveBy(id, 1),
      (id) => this.unsorted() || this.actions.whyNotMoved(id, 1),
    ),
    this.inRow(
      'Make its own',
      'tune',
      '',
      '',
      (id) => this.actions.makeOwn(id),
      (id) => (this.actions.shares(id) ? '' : 'no other layer shares it'),
    ),
    {
      ...this.inRow(
        'Share with',
        'tune',
        '',
        '',
        () => undefined,
        (id) => (this.actions.sharable(id).length > 0 ? '' : 'there is no other sound'),
      ),
      choose: () => this.actions.sharable(this.selection.primary()),
      run: (otherId) => this.actions.shareWith(this.selection.primary(), otherId),
    },
    this.inRow('Copy for another patch', 'copy', '', 'Ctrl C', (id) => this.actions.copy(id)),
    this.inRow('Keep in my sounds', 'star', 'KeyK', 'K', (id) => void this.actions.keepLayer(id)),
    this.inRow('Remove', 'remove', 'Delete,Backspace', 'Del', (id) => this.actions.remove(id)),
    this.patch('select the layer above', 'ArrowUp', '↑', () => this.selection.step(-1)),
    this.patch('select the layer below', 'ArrowDown', '↓', () => this.selection.step(1)),
    this.patch('select all layers', '$mod+KeyA', 'Ctrl A', () => this.selection.everything()),
    this.patch('add a layer', 'KeyA', 'A', () => void this.actions.add()),
    this.patch('balance', 'KeyB', 'B', () => void this.actions.balance()),
    this.patch('as written, or the cue’s balance', 'Shift+KeyB', 'Shift B', () =>
      this.actions.turnBalance(),
    ),
    {
      ...this.inPatchMenu(
        'Take what I hear as a new cue',
        () => void this.withCues((cues) => cues.takeHeard()),
      ),
      keys: 'Shift+KeyN',
      shown: 'Shift N',
    },
    this.patch(
      'the cue takes over what is heard',
      'Shift+KeyT',
      'Shift T',
      () => void this.withCues((cues) => cues.takeOver()),
    ),
    this.patch(
      'put the cue back as it was taken',
      'Shift+KeyP',
      'Shift P',
      () => void this.withCues((cues) => cues.putBack()),
    ),
    this.patch('trace', 'KeyT', 'T', () => this.desk.beside.set('trace')),
    this.patch('plumb line', 'KeyP', 'P', () => this.desk.beside.set('plumb')),
    this.patch('close the drawer', 'Escape', 'Esc', () => this.desk.close()),
    this.inPatchMenu('Choosers: pick what the keyboard plays', () => void this.actions.choosers()),
    this.inPatchMenu('New patch in this song', () => this.actions.newPatch()),
    this.inPatchMenu('Copy of this patch', () => this.actions.copyPatch()),
    this.inPatchMenu(
      'Remove this patch',
      () => this.actions.removePatch(),
      () => this.actions.bound(),
    ),
    this.inPatchMenu(
      'Paste layers',
      () => this.actions.paste(),
      () => this.actions.full(),
    ),
    this.inPatchMenu('Keep this patch in my sounds', () => void this.actions.keepPatch()),
    {
      ...this.inPatchMenu('Keyboard shortcuts', () => void this.showList()),
      keys: 'Shift+?,?',
      shown: '?',
    },
  ];

  /** What the menu of ranges is about, in words. */
  readonly arranged = computed(() => {
    const chosen = this.selection.layers().length;
    if (chosen > 0) return chosen === 1 ? 'The selected layer' : `The ${chosen} selected layers`;
    const shown = this.arrangedLayers.all().length;
    return `No layer is selected: sharing out, closing gaps and crossfading are about the ${shown} layers of the keyboard shown`;
  });

  /** The commands of a menu. */
  of(menu: PatchCommand['menu']): readonly PatchCommand[] {
    return this.all.filter((command) => command.menu === menu);
  }

  /** Shows every shortcut. */
  async showList(): Promise<void> {
    const { ShortcutsDialog } = await import('../ui/dialogs/shortcuts-dialog');
    const withKeys = this.all.filter(({ keys }) => keys !== '');
    const groups: ShortcutGroup[] = [...new Set(withKeys.map(({ group }) => group))].map(
      (name) => ({ name, shortcuts: withKeys.filter(({ group }) => group === name) }),
    );
    await this.dialogs.open(ShortcutsDialog, { data: [...groups, EVERYWHERE], maxWidth: 860 });
  }

  /** What is done with cues is fetched when it is first asked for: the desk can be there before. */
  private async withCues(work: (cues: CueEditing) => void): Promise<void> {
    const { CueEditing } = await import('../state/editing/cue-editing');
    work(this.injector.get(CueEditing));
  }

  /** So is what makes ranges. */
  private async withRanges(work: (ranges: RangeActions) => void): Promise<void> {
    const { RangeActions } = await import('./range-actions');
    work(this.injector.get(RangeActions));
  }

  /** Why rows cannot change places; an empty text when they can. */
  private unsorted(): string {
    return this.desk.inOrder() ? '' : 'the ledger is sorted by something else';
  }

  private range(
    words: string,
    keys: string,
    shown: string,
    needs: 1 | 2,
    work: (ranges: RangeActions, choice: string) => void,
  ): PatchCommand {
    return {
      words,
      keys,
      shown,
      group: 'Ranges of the selected layers',
      menu: 'arrange',
      why: () => {
        const count =
          needs === 1 ? this.selection.layers().length : this.arrangedLayers.all().length;
        if (count >= needs) return '';
        return needs === 1 ? 'select a layer' : 'it takes two layers';
      },
      run: (choice) => void this.withRanges((ranges) => work(ranges, choice)),
    };
  }

  private layer(
    words: string,
    keys: string,
    shown: string,
    run: (layerId: string) => void,
    why: (layerId: string) => string = () => '',
  ): PatchCommand {
    const present = () => {
      const id = this.selection.primary();
      return this.selection.layers().some((layer) => layer.id === id) ? id : null;
    };
    return {
      words,
      keys,
      shown,
      group: 'The selected layers',
      why: () => {
        const id = present();
        return id === null ? 'select a layer' : why(id);
      },
      run: () => {
        const id = present();
        if (id !== null) run(id);
      },
    };
  }

  private inRow(
    words: string,
    icon: string,
    keys: string,
    shown: string,
    run: (layerId: string) => void,
    why?: (layerId: string) => string,
  ): PatchCommand {
    return { ...this.layer(words, keys, shown, run, why), menu: 'row', icon };
  }

  private patch(words: string, keys: string, shown: string, run: () => void): PatchCommand {
    return { words, keys, shown, group: 'The patch', why: () => '', run };
  }

  private inPatchMenu(words: string, run: () => void, why: () => string = () => ''): PatchCommand {
    return { ...this.patch(words, '', '', run), menu: 'patch', why };
  }
}
