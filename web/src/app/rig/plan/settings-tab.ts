import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { MatTableModule } from '@angular/material/table';
import type { ControlBox, DeviceSetting, DeviceSettings, Keyboard } from '@pentachord/core/model';
import { bytesInHex, channelOfMessage, meaningOf } from '@pentachord/core/monitor';
import type { NoteNaming } from '@pentachord/core/pitch';
import {
  asItHolds,
  differingSettings,
  SETTING_NAMES,
  settingInWords,
  settingsOf,
  wantedSettings,
  type ExchangeState,
} from '@pentachord/core/settings';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { isStandIn } from '../../live/ports/cable';
import { RigEditing } from '../../state/editing/rig-editing';
import { NumberField } from '../../ui/numbers/number-field';
import { DeviceExchange } from './device-exchange';

/** Settings that are lists of numbers, one for each pad or knob. */
type ListSetting = 'padNotes' | 'padSensitivity' | 'knobControllers';
const MOST: Partial<Record<DeviceSetting, number>> = { padSensitivity: 8, knobControllers: 119 };
/** Messages of the device that are shown. */
const TAIL = 5;

/** What a device keeps in its own memory: what is wanted, written, read back and compared. */
@Component({
  selector: 'pc-settings-tab',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatSelectModule,
    MatSlideToggleModule,
    MatTableModule,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './settings-tab.html',
  styleUrl: './settings-tab.scss',
})
export class SettingsTab {
  readonly device = input.required<Keyboard | ControlBox>();
  readonly labels = input.required<readonly string[]>();
  readonly middleC = input<NoteNaming>(4);

  private readonly live = inject(Live);
  private readonly editing = inject(RigEditing);
  private readonly exchange = inject(DeviceExchange);
  protected readonly channels = Array.from({ length: 16 }, (_, at) => at + 1);
  protected readonly columns = ['setting', 'known', 'wanted'];
  private readonly seen = signal(0);

  protected readonly wanted = computed(() => wantedSettings(this.device()));
  private readonly known = computed(() => this.device().settings.known);
  protected readonly differing = computed(() => Object.keys(this.device().settings.wanted).length);
  protected readonly rows = computed(() => {
    const known = this.known();
    return settingsOf(this.device()).map((setting) => ({
      setting,
      name: SETTING_NAMES[setting],
      known: known ? settingInWords(setting, known, this.middleC()) : 'not read yet',
      differs: setting in this.device().settings.wanted,
      most: MOST[setting] ?? 127,
    }));
  });
  private readonly state = computed(() => this.exchange.states().get(this.device().port) ?? null);
  /** Nothing can be written now: a write is under way, or the device is none that speaks of its settings. */
  protected readonly busy = computed(() => {
    if (!isStandIn(this.device().port)) return true;
    const step = this.state()?.step;
    return step === 'writing' || step === 'reading';
  });
  protected readonly isBad = computed(() => {
    const state = this.state();
    return state?.step === 'failed' || (state?.step === 'read' && state.differences.length > 0);
  });
  protected readonly told = computed(() =>
    isStandIn(this.device().port)
      ? this.inWords(this.state())
      : 'Settings of this device cannot be reached from here: change them on the device, then say above what it sends.',
  );
  protected readonly tail = computed(() => {
    this.seen();
    const { log } = this.live;
    const lines: { number: number; words: string }[] = [];
    const { port } = this.device();
    for (let at = log.count - 1; at >= Math.max(log.first, log.count - 400); at--) {
      const line = log.at(at);
      if (!line || line.port !== port) continue;
      const channel = channelOfMessage(line);
      const what = line.long ? bytesInHex(line) : meaningOf(line, this.middleC());
      const on = channel === null ? '' : `ch ${channel} `;
      lines.unshift({ number: at, words: `${line.way === 'in' ? '←' : '→'} ${on}${what}` });
      if (lines.length === TAIL) break;
    }
    return lines;
  });

  constructor() {
    eachFrame(() => this.seen.set(this.live.log.count));
  }

  protected want(changes: Partial<DeviceSettings>, gesture?: string): void {
    const { known, wanted } = this.device().settings;
    const next = { ...wanted, ...changes };
    // What is so already need not be wanted.
    const kept = Object.entries(next).filter(
      ([name, value]) =>
        !known || JSON.stringify(known[name as DeviceSetting]) !== JSON.stringify(value),
    );
    const settings = { known, wanted: Object.fromEntries(kept) };
    this.editing.change(this.device().id, { settings }, 'wanted setting changed', gesture);
  }

  protected wantOne(
    setting: ListSetting,
    at: number,
    { value, gesture }: { value: number; gesture: string },
  ): void {
    this.want({ [setting]: this.wanted()[setting].with(at, value) }, gesture);
  }

  protected listOf(setting: ListSetting): readonly number[] {
    return this.wanted()[setting];
  }

  protected forget(): void {
    const { known } = this.device().settings;
    this.editing.change(
      this.device().id,
      { settings: { known, wanted: {} } },
      'wanted settings forgotten',
    );
  }

  protected write(): void {
    void this.talk(this.wanted());
  }

  protected read(): void {
    void this.talk(null);
  }

  private async talk(wanted: DeviceSettings | null): Promise<void> {
    const device = this.device();
    const state = await this.exchange.talk(device.port, wanted);
    if (state.step !== 'read') return;
    const words = state.wrote ? 'settings written' : 'settings read';
    this.editing.change(device.id, asItHolds(device, state.settings), words);
  }

  private inWords(state: ExchangeState | null): string {
    const count = this.differing();
    const waiting = `${count} ${count === 1 ? 'setting is' : 'settings are'} not yet on the device.`;
    switch (state?.step) {
      case 'writing':
        return `Writing: packet ${state.packet + 1} of ${state.of} …`;
      case 'reading':
        return state.wrote ? 'Written. Reading it back …' : 'Reading …';
      case 'failed':
        return `${state.words} ${state.wrote ? 'Read it back to see what it holds.' : 'What it held before stays.'} Try again.`;
      case 'read': {
        if (count > 0 && state.differences.length === 0) return waiting;
        if (state.differences.length > 0) return this.differencesInWords(state);
        if (!state.wrote) return 'Read: this is what it holds.';
        return 'Written and read back: the same. Press a key, and see what arrives.';
      }
      default:
        return count > 0 ? waiting : 'Nothing is wanted otherwise than it was read last.';
    }
  }

  private differencesInWords({ differences }: Extract<ExchangeState, { step: 'read' }>): string {
    const parts = differences.map(({ setting, wanted, found }) => {
      const words = (settings: DeviceSettings) => settingInWords(setting, settings, this.middleC());
      return `${SETTING_NAMES[setting]} ${words(found)}, not ${words(wanted)}`;
    });
    const still = differingSettings(this.wanted(), differences[0].found).length > 0;
    return `Read back, it is otherwise: ${parts.join('; ')}.${still ? ' Write again, or change it on the device.' : ''}`;
  }
}
