import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  signal,
  ViewContainerRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import type { PlanPoint } from '@pentachord/core/model';
import { NEUTRAL_KINDS, type NeutralKind } from '@pentachord/core/rig';
import { Store } from '@ngrx/store';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { midiInWords, type MidiAccessState } from '../../live/ports/midi-access';
import { RigEditing } from '../../state/editing/rig-editing';
import type { AppState } from '../../state/reducers';
import { selectDevices, selectMiddleC } from '../../state/selectors';
import { NameField } from '../../ui/names/name-field';
import { UndoButtons } from '../../ui/undo-buttons';
import { AllSettingsDialog } from './all-settings-dialog';
import { AskedFor } from './asked-for';
import { DeviceExchange } from './device-exchange';
import { DevicePanel } from './device-panel';
import { MoveShowDialog } from './move-show-dialog';
import { RigActivity } from './rig-activity';
import { RemarksOfRig } from '../remarks-of-rig';
import { StagePlan } from './stage-plan';

/** The plan of the rig: what stands on the stage, to scale, and each device’s settings. */
@Component({
  selector: 'pc-rig-view',
  imports: [
    DevicePanel,
    MatButtonModule,
    MatIconModule,
    MatInputModule,
    MatMenuModule,
    NameField,
    RemarksOfRig,
    StagePlan,
    UndoButtons,
  ],
  providers: [AskedFor, DeviceExchange, RigActivity],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './rig-view.html',
  styleUrl: './rig-view.scss',
})
export class RigView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly dialog = inject(MatDialog);
  private readonly viewContainerRef = inject(ViewContainerRef);
  protected readonly editing = inject(RigEditing);
  protected readonly neutral = NEUTRAL_KINDS;
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly playing = this.store.selectSignal(selectDevices);
  protected readonly chosenId = signal<string | null>(null);
  private readonly midi = signal<MidiAccessState>('not asked');

  protected readonly chosen = computed(() => {
    const devices = this.editing.devices();
    return devices.find(({ id }) => id === this.chosenId()) ?? devices.at(0) ?? null;
  });
  protected readonly labels = computed(() => this.editing.rig()?.labels ?? []);
  protected readonly used = computed(() => {
    const shows = this.editing.usedBy().map(({ name }) => name);
    if (shows.length === 0) return 'used by no show yet';
    const rest = shows.length > 1 ? ` and ${shows.length - 1} other shows` : '';
    return `used by ${shows[0]}${rest}`;
  });
  protected readonly midiProblem = computed(() => {
    if (this.midi() === 'not supported')
      return 'This browser reaches no MIDI devices. Stand-ins, screen and computer keys play on; a Chromium-based browser reaches devices.';
    return midiInWords(this.midi())?.long ?? '';
  });

  constructor() {
    eachFrame(() => this.midi.set(this.live.midi.state));
  }

  protected add(kind: NeutralKind): void {
    this.chosenId.set(this.editing.add(kind));
  }

  protected move({ deviceId, at, gesture }: { deviceId: string; at: PlanPoint; gesture?: string }) {
    this.chosenId.set(deviceId);
    this.editing.change(deviceId, { at }, 'device moved', gesture);
  }

  protected openSettings(): void {
    const { viewContainerRef } = this;
    this.dialog.open(AllSettingsDialog, {
      viewContainerRef,
      width: '860px',
      maxWidth: '92vw',
    });
  }

  protected moveShow(): void {
    this.dialog.open(MoveShowDialog);
  }
}
