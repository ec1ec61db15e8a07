import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatTabsModule } from '@angular/material/tabs';
import {
  isKeyboard,
  placeAt,
  placeInWords,
  PLACES_OF,
  type ControlBox,
  type Device,
  type Place,
} from '@pentachord/core/model';
import type { NoteNaming } from '@pentachord/core/pitch';
import { standInPort } from '@pentachord/core/rig';
import { dequal } from 'dequal';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { RigEditing } from '../../state/editing/rig-editing';
import type { DeviceChanges } from '../../state/editing/rig-edits';
import { NameField } from '../../ui/names/name-field';
import { NumberField } from '../../ui/numbers/number-field';
import { PadsTouchTab } from './pads-touch-tab';
import { ProgramsTab } from './programs-tab';
import { RecipeTab } from './recipe-tab';
import { SettingsTab } from './settings-tab';
import { KeyboardTouchTab } from './keyboard-touch-tab';
import { WhichOne } from './which-one';

/** Places of a kind that are offered. */
const OFFERED = 4;

/** One device: where it stands, what it is plugged in as, its channel, keys, pads, and what it stands in for. */
@Component({
  selector: 'pc-device-panel',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    MatTabsModule,
    NameField,
    NumberField,
    PadsTouchTab,
    ProgramsTab,
    RecipeTab,
    SettingsTab,
    KeyboardTouchTab,
  ],
  providers: [WhichOne],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './device-panel.html',
  styleUrl: './device-panel.scss',
  host: { '(document:keydown.escape)': 'which.cancel()' },
})
export class DevicePanel {
  readonly device = input.required<Device>();
  readonly devices = input.required<readonly Device[]>();
  /** What stands in the rig that plays: another may be looked at. */
  readonly playing = input<readonly Device[]>([]);
  readonly labels = input.required<readonly string[]>();
  readonly middleC = input<NoteNaming>(4);
  readonly removed = output();

  private readonly live = inject(Live);
  private readonly editing = inject(RigEditing);
  protected readonly which = inject(WhichOne);
  protected readonly told = signal('');
  /** Real ports that are plugged in. */
  private readonly inputs = signal<readonly string[]>([], { equal: dequal });
  private readonly outputs = signal<readonly string[]>([], { equal: dequal });

  protected readonly keyboard = computed(() => {
    const device = this.device();
    return isKeyboard(device) ? device : null;
  });
  protected readonly box = computed(() => {
    const device = this.device();
    return device.kind === 'controlBox' ? device : null;
  });
  protected readonly pedal = computed(() => {
    const device = this.device();
    return device.kind === 'pedal' ? device : null;
  });
  protected readonly module = computed(() => {
    const device = this.device();
    return device.kind === 'module' ? device : null;
  });
  protected readonly sender = computed(() => this.keyboard() ?? this.box());
  protected readonly tab = signal(0);
  /** Its index in the rig that plays. */
  protected readonly index = computed(() =>
    this.playing().findIndex(({ id }) => id === this.device().id),
  );
  protected readonly settingsLabel = computed(() => {
    const count = Object.keys(this.sender()?.settings.wanted ?? {}).length;
    return count > 0 ? `Settings on the device (${count} to write)` : 'Settings on the device';
  });
  protected readonly places = computed(() => {
    const taken = new Set(this.devices().map(({ place }) => place));
    const own = this.device().place;
    return PLACES_OF[this.device().kind]
      .flatMap((kind) => Array.from({ length: OFFERED }, (_, at) => placeAt(kind, at + 1)))
      .filter((place) => place === own || !taken.has(place))
      .concat(own)
      .filter((place, at, all) => all.indexOf(place) === at);
  });
  /** Places at which nothing stands, and those that it stands in for. */
  protected readonly others = computed((): Place[] => {
    const { place, alsoAt } = this.device();
    return [...new Set([...alsoAt, ...this.places()])].filter((other) => other !== place);
  });
  protected readonly ports = computed(() => {
    const { place, port, kind } = this.device();
    const plugged = this.devices().filter((d) => kind === 'pedal' && d.kind !== 'pedal');
    const real = kind === 'module' ? this.outputs() : this.inputs();
    const names = new Set([...[port, standInPort(place), ...plugged.map((d) => d.port)], ...real]);
    return [...names].map((name) => ({ name, there: this.live.isThere(name) }));
  });
  protected readonly channels = computed(() =>
    this.labels().map((label, at) => ({
      number: at + 1,
      name: label ? `${at + 1} ${label}` : String(at + 1),
    })),
  );

  constructor() {
    eachFrame(() => {
      this.inputs.set([...this.live.midi.inputs]);
      this.outputs.set([...this.live.midi.outputs]);
    });
  }

  protected inWords(place: Place): string {
    return placeInWords(place);
  }

  protected set(changes: DeviceChanges, words: string, gesture?: string): void {
    this.editing.change(this.device().id, changes, words, gesture);
  }

  /** Pads and knobs that are added send what comes next. */
  protected setPads({ padNotes }: ControlBox, count: number, gesture: string): void {
    this.set({ padNotes: continued(padNotes, count, 36) }, 'pads changed', gesture);
  }

  protected setFirstPad({ padNotes }: ControlBox, first: number, gesture: string): void {
    this.set({ padNotes: padNotes.map((_, at) => first + at) }, 'pads changed', gesture);
  }

  protected setKnobs({ knobControllers }: ControlBox, count: number, gesture: string): void {
    const knobs = continued(knobControllers, count, 20).map((controller) =>
      Math.min(119, controller),
    );
    this.set({ knobControllers: knobs }, 'knobs changed', gesture);
  }

  protected find(): void {
    this.told.set('');
    this.which.wait(({ port, channel }) => {
      const { name } = this.device();
      const changes = this.sender() ? { port, channel } : { port };
      this.set(changes, 'port found by playing');
      this.told.set(`${name} is “${port}”, and sends on channel ${channel}.`);
    });
  }
}

/** As many numbers, each one more than the last. */
function continued(numbers: readonly number[], count: number, first: number): number[] {
  const all = numbers.slice(0, count);
  while (all.length < count) all.push(Math.min(127, (all.at(-1) ?? first - 1) + 1));
  return all;
}
