import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import {
  CLICK_OUTPUTS,
  type ClickOutput,
  type Going,
  type Show,
  type ShowClockSettings,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { dequal } from 'dequal';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { STAND_IN_CLOCK, STAND_IN_FOLLOWER } from '../../live/ports/cable';
import { ShowEditing } from '../../state/editing/show-editing';
import type { AppState } from '../../state/reducers';
import { selectDevices } from '../../state/selectors';
import { NumberField } from '../../ui/numbers/number-field';

const OUTPUTS: Readonly<Record<ClickOutput, string>> = {
  both: 'both sides',
  left: 'left only',
  right: 'right only',
  '3-4': 'outputs 3 and 4',
  '5-6': 'outputs 5 and 6',
  '7-8': 'outputs 7 and 8',
};

/** How a show is gone through and what keeps time in it. */
@Component({
  selector: 'pc-clock-settings',
  imports: [
    MatButtonToggleModule,
    MatFormFieldModule,
    MatSelectModule,
    MatSlideToggleModule,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-labelledby="presses">
      <h2 id="presses">Presses</h2>
      <dl>
        <dt>a second press counts after</dt>
        <dd>
          <pc-number-field
            label="Milliseconds after which a second press counts"
            [value]="guard()"
            [max]="2000"
            [step]="10"
            [chars]="5"
            (changed)="change({ guardSeconds: $event.value / 1000 }, $event.gesture)"
          />
          ms
        </dd>
        <dt>after the last cue</dt>
        <dd>
          <mat-button-toggle-group
            aria-label="What comes after the last cue"
            [hideSingleSelectionIndicator]="true"
            [value]="show().going.atEnd"
            (change)="change({ atEnd: $event.value })"
          >
            <mat-button-toggle value="stop">stop</mat-button-toggle>
            <mat-button-toggle value="wrap">begin anew</mat-button-toggle>
          </mat-button-toggle-group>
        </dd>
      </dl>
    </section>
    <section aria-labelledby="clock">
      <h2 id="clock">Clock</h2>
      <dl>
        <dt>time is kept by</dt>
        <dd>
          <mat-form-field appearance="outline" subscriptSizing="dynamic">
            <mat-select
              aria-label="Who keeps time"
              [value]="clock().leader ?? ''"
              (selectionChange)="changeClock({ leader: $event.value || null })"
            >
              <mat-option value="">Pentachord</mat-option>
              @for (port of inputs(); track port) {
                <mat-option [value]="port">{{ port }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
        </dd>
        <dt>clock goes out to</dt>
        <dd>
          <mat-form-field appearance="outline" subscriptSizing="dynamic">
            <mat-select
              multiple
              aria-label="Who follows"
              placeholder="no device"
              [value]="clock().followers"
              (selectionChange)="changeClock({ followers: $event.value })"
            >
              @for (port of outputs(); track port) {
                <mat-option [value]="port">{{ port }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
        </dd>
        <dt>count-in</dt>
        <dd>
          <pc-number-field
            label="Bars of count-in"
            [value]="clock().countInBars"
            [max]="4"
            [chars]="2"
            (changed)="changeClock({ countInBars: $event.value }, $event.gesture)"
          />
          {{ clock().countInBars === 1 ? 'bar' : 'bars' }}
        </dd>
        <dt>click by sound</dt>
        <dd>
          <mat-slide-toggle
            hideIcon
            aria-label="Click by sound"
            [checked]="clock().click.on"
            (change)="changeClick({ on: $event.checked })"
          />
          <pc-number-field
            kind="level"
            label="Level of the click, dB"
            [value]="clock().click.level"
            [min]="-60"
            [max]="6"
            [chars]="6"
            (changed)="changeClick({ level: $event.value }, $event.gesture)"
          />
          dB
        </dd>
        <dt>click comes out of</dt>
        <dd>
          <mat-form-field appearance="outline" subscriptSizing="dynamic">
            <mat-select
              aria-label="Where the click is heard"
              [value]="clock().click.output"
              (selectionChange)="changeClick({ output: $event.value })"
            >
              @for (one of clickOutputs(); track one.output) {
                <mat-option [value]="one.output" [disabled]="!one.isThere">
                  {{ one.name }}
                </mat-option>
              }
            </mat-select>
          </mat-form-field>
        </dd>
      </dl>
    </section>
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
    }
    section {
      background: var(--sheet);
      border: 1px solid var(--hairline);
      border-radius: 6px;
      padding: 10px 14px;
    }
    h2 {
      font: 600 15px/1.3 var(--words);
      margin-bottom: 6px;
    }
    dl {
      display: grid;
      grid-template-columns: auto minmax(0, 1fr);
      gap: 8px 14px;
      align-items: center;
      margin: 0;
    }
    dt {
      color: var(--ink-soft);
    }
    dd {
      display: flex;
      align-items: center;
      gap: 8px;
      margin: 0;
    }
    mat-form-field {
      flex: 1;
    }
  `,
})
export class ClockSettings {
  readonly show = input.required<Show>();
  private readonly live = inject(Live);
  private readonly editing = inject(ShowEditing);
  private readonly devices = inject<Store<AppState>>(Store).selectSignal(selectDevices);
  /** Real ports. */
  private readonly plugged = signal<{ inputs: readonly string[]; outputs: readonly string[] }>(
    { inputs: [], outputs: [] },
    { equal: dequal },
  );
  private readonly channels = signal(2);

  protected readonly clock = computed(() => this.show().going.clock);
  protected readonly guard = computed(() => Math.round(this.show().going.guardSeconds * 1000));
  protected readonly inputs = computed(() => {
    const leader = this.clock().leader;
    const ports = this.devices().flatMap(({ kind, port }) => (kind === 'module' ? [] : [port]));
    return distinct([STAND_IN_CLOCK, ...this.plugged().inputs, ...ports, leader ?? '']);
  });
  protected readonly outputs = computed(() => {
    const ports = this.devices().flatMap(({ kind, port }) => (kind === 'module' ? [port] : []));
    return distinct([
      STAND_IN_FOLLOWER,
      ...this.plugged().outputs,
      ...ports,
      ...this.clock().followers,
    ]);
  });
  protected readonly clickOutputs = computed(() =>
    CLICK_OUTPUTS.map((output) => {
      const last = Number(/\d$/.exec(output)?.[0] ?? 2);
      const isThere = last <= this.channels();
      return { output, isThere, name: OUTPUTS[output] + (isThere ? '' : ' (not on this machine)') };
    }),
  );

  constructor() {
    eachFrame(() => {
      const { midi, audio } = this.live;
      this.plugged.set({ inputs: [...midi.inputs], outputs: [...midi.outputs] });
      this.channels.set(audio.outputs);
    });
  }

  protected change(changes: Partial<Going>, gesture?: string): void {
    const { id, going } = this.show();
    this.editing.change(id, { going: { ...going, ...changes } }, gesture);
  }

  protected changeClock(changes: Partial<ShowClockSettings>, gesture?: string): void {
    this.change({ clock: { ...this.clock(), ...changes } }, gesture);
  }

  protected changeClick(changes: Partial<ShowClockSettings['click']>, gesture?: string): void {
    this.changeClock({ click: { ...this.clock().click, ...changes } }, gesture);
  }
}

function distinct(ports: readonly string[]): string[] {
  return [...new Set(ports.filter((port) => port !== ''))];
}
