import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatTableModule } from '@angular/material/table';
import {
  cutText,
  LONGEST_NAME,
  MOST_PRESETS,
  type ControlBox,
  type Keyboard,
  type SettingsPreset,
} from '@pentachord/core/model';
import {
  asItHolds,
  heldOtherwise,
  keepingSettings,
  presetOf,
  SETTING_NAMES,
  settingInWords,
  wantedSettings,
  wantingPreset,
  type ExchangeState,
} from '@pentachord/core/settings';
import { Store } from '@ngrx/store';
import { isStandIn } from '../../live/ports/cable';
import { RigEditing } from '../../state/editing/rig-editing';
import type { AppState } from '../../state/reducers';
import { selectMiddleC } from '../../state/selectors';
import { DeviceExchange } from './device-exchange';

/** Settings of all devices of a rig: written, compared, and kept under names. */
@Component({
  selector: 'pc-all-settings-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './all-settings-dialog.html',
  styleUrl: './all-settings-dialog.scss',
})
export class AllSettingsDialog {
  protected readonly editing = inject(RigEditing);
  private readonly exchange = inject(DeviceExchange);
  private readonly middleC = inject<Store<AppState>>(Store).selectSignal(selectMiddleC);
  protected readonly columns = ['device', 'wanted', 'state'];
  protected readonly most = MOST_PRESETS;
  protected readonly busy = signal(false);
  protected readonly told = signal('');

  private readonly devices = computed(() => keepingSettings(this.editing.devices()));
  protected readonly presets = computed(() => this.editing.rig()?.presets ?? []);
  protected readonly rows = computed(() =>
    this.devices().map((device) => ({
      id: device.id,
      name: device.name,
      wanted: this.wantedInWords(device),
      state: this.stateInWords(device, this.exchange.states().get(device.port)),
      isBad: this.exchange.states().get(device.port)?.step === 'failed',
    })),
  );

  protected writeAll(): void {
    void this.talkWithAll(true);
  }

  protected compareAll(): void {
    void this.talkWithAll(false);
  }

  protected keep(name: string): void {
    const rig = this.editing.rig();
    const called = cutText(name, LONGEST_NAME);
    if (!rig || called === '') return;
    const preset = presetOf(called, this.editing.devices());
    const others = rig.presets.filter((one) => one.name !== called);
    this.editing.changeRig({ presets: [...others, preset] }, 'settings kept');
    this.told.set(`Kept as “${called}”.`);
  }

  protected want(preset: SettingsPreset): void {
    const devices = wantingPreset(preset, this.editing.devices());
    this.editing.changeDevices(`${preset.name} wanted`, devices);
    const count = this.devices().filter(({ settings }) => Object.keys(settings.wanted).length > 0);
    this.told.set(
      count.length === 0
        ? `“${preset.name}” is what every device holds already.`
        : `“${preset.name}” is wanted; ${count.length} of ${this.devices().length} devices are yet to be written.`,
    );
  }

  protected forget(preset: SettingsPreset): void {
    const presets = this.presets().filter((one) => one !== preset);
    this.editing.changeRig({ presets }, 'kept settings removed');
  }

  /** One device after the other, so that two on one port are not talked with at once. */
  private async talkWithAll(write: boolean): Promise<void> {
    this.busy.set(true);
    this.told.set('');
    let well = 0;
    let asked = 0;
    for (const { id } of this.devices()) {
      const device = this.devices().find((one) => one.id === id);
      if (!device || !isStandIn(device.port)) continue;
      asked++;
      const state = await this.exchange.talk(device.port, write ? wantedSettings(device) : null);
      if (state.step !== 'read') continue;
      const words = state.wrote ? 'settings written' : 'settings read';
      this.editing.change(device.id, asItHolds(device, state.settings), words);
      const now = this.devices().find((one) => one.id === id);
      if (now && heldOtherwise(now)?.length === 0) well++;
    }
    this.busy.set(false);
    this.told.set(`${well} of ${asked} devices hold what is wanted.`);
  }

  private wantedInWords(device: Keyboard | ControlBox): string {
    const wanted = Object.keys(device.settings.wanted) as (keyof typeof SETTING_NAMES)[];
    if (wanted.length === 0) return 'as it was read last';
    const all = wantedSettings(device);
    return wanted
      .map((one) => `${SETTING_NAMES[one]} ${settingInWords(one, all, this.middleC())}`)
      .join(', ');
  }

  private stateInWords(device: Keyboard | ControlBox, state: ExchangeState | undefined): string {
    if (!isStandIn(device.port)) return 'cannot be reached from here: set it by hand';
    if (state?.step === 'writing') return `writing, packet ${state.packet + 1} of ${state.of}`;
    if (state?.step === 'reading') return 'reading';
    if (state?.step === 'failed') return state.words;
    const others = heldOtherwise(device);
    if (!others) return 'not read yet';
    if (others.length === 0) return 'holds what is wanted';
    return others
      .map(
        ({ setting, found }) =>
          `${SETTING_NAMES[setting]} ${settingInWords(setting, found, this.middleC())}`,
      )
      .join(', ');
  }
}
