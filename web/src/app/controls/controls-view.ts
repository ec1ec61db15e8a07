import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
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
import { ShowEditing } from '../state/editing/show-editing';
import type { AppState } from '../state/reducers';
import { selectDevices, selectSteps, selectThings } from '../state/selectors';
import { UndoButtons } from '../ui/undo-buttons';
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

/** Layers that a row of its own can be opened for. */
const MOST_LAYERS = 8;

/** One line: what is done, and by which controls. */
interface Row {
  id: string;
  name: string;
  wanted: Wanted;
  controls: { control: ShowControl; words: string }[];
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
  providers: [Learning],
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
  protected readonly goesTo = signal(0);
  protected readonly trims = signal(0);

  protected readonly places = computed(() => {
    const { songs, cues } = this.things();
    return this.steps().map(({ songId, cueId }, at) => ({
      at,
      songId,
      cueId,
      name: `${songs[songId].name}${cueId ? `: ${cues[cueId].name}` : ''}`,
    }));
  });
  protected readonly layers = Array.from({ length: MOST_LAYERS }, (_, layer) => ({
    layer,
    name: layerLetter(layer),
  }));

  protected readonly rows = computed((): Row[] => [
    ...PRESSES.map((action) => this.row(action, { action })),
    this.row('chooseSong', { action: 'chooseSong' }),
  ]);
  protected readonly goToControls = computed(() => this.controlsOf('goTo'));
  protected readonly trimControls = computed(() => this.controlsOf('trim'));

  protected learnGoTo(): void {
    const place = this.places().at(this.goesTo());
    if (!place) return;
    const { songId, cueId } = place;
    this.learning.wait('goTo', { action: 'goTo', songId, cueId });
  }

  protected learnTrim(): void {
    this.learning.wait('trim', { action: 'trim', layer: this.trims() });
  }

  private row(action: ShowAction, wanted: Wanted): Row {
    return { id: action, name: ACTION_NAMES[action], wanted, controls: this.controlsOf(action) };
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
