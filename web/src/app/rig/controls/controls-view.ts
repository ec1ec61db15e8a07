import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  signal,
  type WritableSignal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatSelectModule } from '@angular/material/select';
import {
  ACTION_NAMES,
  controlInWords,
  layerLetter,
  type ShowAction,
  type ShowControl,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { ShowEditing } from '../../state/editing/show-editing';
import type { AppState } from '../../state/reducers';
import { selectDevices, selectSteps, selectThings } from '../../state/selectors';
import { UndoButtons } from '../../ui/undo-buttons';
import { ControlUses } from '../control-uses';
import { ClockSettings } from './clock-settings';
import { Learning, type Wanted } from './learning';

/** Actions in the order in which they are shown. */
const PRESSES = [
  'nextCue',
  'previousCue',
  'nextSong',
  'previousSong',
  'allNotesOff',
  'tapTempo',
  'countIn',
  'stopClock',
  'click',
  'transposeUp',
  'transposeDown',
] as const;

/** Layers that can be chosen, by their letters. */
const LAYERS = Array.from({ length: 8 }, (_, at) => ({ at, name: layerLetter(at) }));

/** One line: what is done, and by which controls. */
interface Row {
  id: ShowAction;
  name: string;
  /** What the next control that is touched is tied to; null while there is nothing. */
  wanted: Wanted | null;
  /** What the button that waits for a control says to those who listen. */
  touch: string;
  /** Where it goes to or what it trims, chosen before a control is touched. */
  choice: Choice | null;
  controls: { control: ShowControl; words: string }[];
}

/** One of several, by its place among them. */
interface Choice {
  label: string;
  of: WritableSignal<number>;
  among: readonly { at: number; name: string }[];
}

/** The Controls view: what pads, keys, pedals, knobs and messages do to the show, learnt by touching them; and the clock. */
@Component({
  selector: 'pc-controls-view',
  imports: [
    ClockSettings,
    MatButtonModule,
    MatChipsModule,
    MatFormFieldModule,
    MatIconModule,
    MatSelectModule,
    UndoButtons,
  ],
  providers: [ControlUses, Learning],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './controls-view.html',
  styleUrl: './controls-view.scss',
  host: { '(document:keydown.escape)': 'learning.stop()' },
})
export class ControlsView {
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly editing = inject(ShowEditing);
  protected readonly learning = inject(Learning);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly steps = this.store.selectSignal(selectSteps);
  protected readonly show = this.editing.show;
  /** Step that “go to” goes to, and layer that a trim trims, for the next control that is touched. */
  private readonly goesTo = signal(0);
  private readonly trims = signal(0);

  private readonly places = computed(() => {
    const { songs, cues } = this.things();
    return this.steps().map(({ songId, cueId }, at) => ({
      at,
      songId,
      cueId,
      name: `${songs[songId].name}${cueId ? `: ${cues[cueId].name}` : ''}`,
    }));
  });

  protected readonly rows = computed((): Row[] => [
    ...PRESSES.map((action) => this.row(action, { action })),
    this.row('chooseSong', { action: 'chooseSong' }),
    this.goToRow(),
    this.trimRow(),
  ]);

  private goToRow(): Row {
    const place = this.places().at(this.goesTo());
    return {
      ...this.row(
        'goTo',
        place ? { action: 'goTo', songId: place.songId, cueId: place.cueId } : null,
      ),
      touch: 'Touch a control that goes there',
      choice: { label: 'Where the control goes to', of: this.goesTo, among: this.places() },
    };
  }

  private trimRow(): Row {
    return {
      ...this.row('trim', { action: 'trim', layer: this.trims() }),
      touch: 'Touch a control that trims',
      choice: { label: 'Layer that the control trims', of: this.trims, among: LAYERS },
    };
  }

  private row(action: ShowAction, wanted: Wanted | null): Row {
    const name = ACTION_NAMES[action];
    const controls = this.controlsOf(action);
    return {
      id: action,
      name,
      wanted,
      touch: `Touch a control for ${name}`,
      choice: null,
      controls,
    };
  }

  private controlsOf(action: ShowAction) {
    return (this.show()?.controls ?? [])
      .filter((control) => control.action === action)
      .map((control) => ({
        control,
        words: `${controlInWords(control, this.devices())}${this.objectOf(control)}`,
      }));
  }

  /** What a control goes to or trims, behind its name. */
  private objectOf(control: ShowControl): string {
    if (control.action === 'trim') return ` → ${layerLetter(control.layer)}`;
    if (control.action !== 'goTo') return '';
    const { songs, cues } = this.things();
    const song = control.songId in songs ? songs[control.songId].name : 'a song that is gone';
    const cue = control.cueId && control.cueId in cues ? `: ${cues[control.cueId].name}` : '';
    return ` → ${song}${cue}`;
  }
}
