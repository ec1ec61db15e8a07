import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { LAYER_OUTPUTS, type ClickOutput, type LayerOutput } from '@pentachord/core/model';
import { noteName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { ShowEditing } from '../state/editing/show-editing';
import { machine } from '../state/machine/machine';
import { LOOKS, rememberedLook, rememberLook, type Look } from '../state/machine/looks';
import { preferences, type Preferences } from '../state/machine/preferences';
import type { AppState } from '../state/reducers';
import { selectBudget, selectMachine } from '../state/machine/selectors';
import { selectLabels, selectMiddleC, selectPreferences } from '../state/selectors';
import { NumberField } from '../ui/numbers/number-field';
import { outputDevices, type OutputDevice } from './output-devices';

/** Notes by which the player sees how notes are called. */
const EXAMPLES = [36, 51, 60, 66, 82];
const CLICKS: Readonly<Record<ClickOutput, string>> = {
  both: 'both sides of the first pair',
  left: 'left alone',
  right: 'right alone',
  '3-4': 'outputs 3 and 4',
  '5-6': 'outputs 5 and 6',
  '7-8': 'outputs 7 and 8',
};

/** The Preferences view: how notes are called, what new layers listen to, and how sound leaves this machine. */
@Component({
  selector: 'pc-preferences-view',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatSelectModule,
    MatSlideToggleModule,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './preferences-view.html',
  styleUrl: './preferences-view.scss',
})
export class PreferencesView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly editing = inject(ShowEditing);
  protected readonly own = this.store.selectSignal(selectPreferences);
  private readonly naming = this.store.selectSignal(selectMiddleC);
  protected readonly labels = this.store.selectSignal(selectLabels);
  private readonly budget = this.store.selectSignal(selectBudget);
  private readonly machine = this.store.selectSignal(selectMachine);
  protected readonly show = this.editing.show;
  protected readonly channels = Array.from({ length: 16 }, (_, at) => at + 1);
  protected readonly looks = LOOKS;
  protected readonly look = signal(rememberedLook());
  protected readonly devices = signal<readonly OutputDevice[]>([]);
  protected readonly clicks = CLICKS;
  protected readonly clickOutputs = Object.keys(CLICKS) as ClickOutput[];
  private readonly outputs = signal(2);
  private readonly delay = signal(0);

  protected readonly examples = computed(() =>
    EXAMPLES.map((note) => noteName(note, this.naming())).join('  '),
  );
  protected readonly pairs = computed(() =>
    Array.from({ length: Math.floor(this.outputs() / 2) }, (_, at) => ({
      at,
      words: `outputs ${at * 2 + 1} and ${at * 2 + 2}`,
    })),
  );
  protected readonly ways = LAYER_OUTPUTS.map((way) => ({
    way,
    words: way === 'main' ? 'the main pair' : `layers of the ${way} pair`,
  }));
  protected readonly budgetPercent = computed(() => Math.round(this.budget() * 100));
  protected readonly isMeasured = computed(() => this.machine().chosen === null);
  protected readonly delayWords = computed(() =>
    this.delay() > 0
      ? `now ${Math.round(this.delay() * 1000)} ms from key to loudspeaker, as the browser says`
      : 'known once sound is on',
  );
  protected readonly outputProblem = signal('');
  protected readonly outputWords = computed(() =>
    this.outputs() > 2
      ? `This device has ${this.outputs()} outputs.`
      : 'This device has one pair of outputs: everything is heard there. What is chosen below counts as soon as one with more is there.',
  );

  constructor() {
    const look = () => void outputDevices().then((devices) => this.devices.set(devices));
    look();
    const media = navigator.mediaDevices as MediaDevices | undefined;
    media?.addEventListener('devicechange', look);
    inject(DestroyRef).onDestroy(() => media?.removeEventListener('devicechange', look));
    eachFrame(() => {
      this.outputs.set(this.live.audio.outputs);
      this.outputProblem.set(this.live.audio.outputProblem);
      this.delay.set(Math.round(this.live.audio.latency * 1000) / 1000);
    });
  }

  protected change(changes: Partial<Preferences>): void {
    this.store.dispatch(preferences.changed({ changes }));
  }

  protected changePair(way: LayerOutput, pair: number | null): void {
    const { pairs } = this.own();
    this.change({ pairs: { ...pairs, [way]: way === 'main' ? (pair ?? 0) : pair } });
  }

  /** Pairs that can be chosen: those that are there, and the one that was chosen where it is not. */
  protected pairsFor(way: LayerOutput): { at: number; words: string }[] {
    const chosen = this.own().pairs[way];
    const there = this.pairs();
    if (chosen === null || chosen < there.length) return there;
    const words = `outputs ${chosen * 2 + 1} and ${chosen * 2 + 2} (not here)`;
    return [...there, { at: chosen, words }];
  }

  protected changeBudget(percent: number | null): void {
    this.store.dispatch(machine.budgetChosen({ budget: percent === null ? null : percent / 100 }));
  }

  protected changeLook(look: Look): void {
    this.look.set(look);
    rememberLook(look);
  }

  protected changeClick(output: ClickOutput): void {
    const show = this.show();
    if (!show) return;
    const { going } = show;
    const click = { ...going.clock.click, output };
    this.editing.change(show.id, { going: { ...going, clock: { ...going.clock, click } } });
  }
}
