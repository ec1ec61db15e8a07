import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  Injector,
  input,
  output,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import {
  LEAST_TIMBRE,
  TIMBRE_PARTS,
  type ControlTarget,
  type Layer,
  type Patch,
  type Sound,
  type TimbrePart,
} from '@pentachord/core/model';
import { PatchEditing } from '../../state/editing/patch-editing';
import { PatchActions } from '../patch-actions';
import { Amount } from '../../ui/numbers/amount';
import { NumberField } from '../../ui/numbers/number-field';
import { StolenFlag } from '../ledger/stolen-flag';
import { TieButton } from '../../ui/ties/tie-button';

/** Voices to begin with when a number is asked for. */
const FIRST_VOICES = 8;

/** How many voices a sound has, as one chooses first. */
type VoiceChoice = 'many' | 'some' | 'one';

/** The sound that a layer plays: who shares it, how many voices it has, and its colour. All of it belongs to the sound. */
@Component({
  selector: 'pc-sound-tab',
  imports: [Amount, MatButtonModule, MatButtonToggleModule, NumberField, StolenFlag, TieButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (sound(); as sound) {
      <div #who class="who" tabindex="-1">
        <p>
          <b>{{ name() }}</b>
          <button type="button" matButton="outlined" (click)="swapAsked.emit()">Swap sound</button>
        </p>
        @if (sharers().length > 0) {
          <p class="shared">
            One sound for {{ everyone() }}; it costs once. What is set here is heard on all of them.
          </p>
          <button type="button" matButton="outlined" (click)="makeOwn()">Make its own</button>
        } @else {
          <p class="soft">Only {{ layer().name }} plays it.</p>
        }
        @if (others().length > 0) {
          <div class="share" role="group" aria-label="Share with">
            Share with
            @for (other of others(); track other.id) {
              <button type="button" matButton="outlined" (click)="shareWith(other)">
                {{ other.name }}
              </button>
            }
          </div>
        }
        <div class="share">
          <button type="button" matButton="outlined" (click)="keepSound()">Keep this sound</button>
          <button type="button" matButton="outlined" (click)="keepLayer()">Keep this layer</button>
        </div>
      </div>
      <div class="voices">
        <div class="line">
          Voices
          <mat-button-toggle-group
            aria-label="Voices"
            [hideSingleSelectionIndicator]="true"
            [value]="voices()"
            (change)="setVoices(sound.id, $event.value)"
          >
            <mat-button-toggle value="many">many</mat-button-toggle>
            <mat-button-toggle value="some">a number</mat-button-toggle>
            <mat-button-toggle value="one">one</mat-button-toggle>
          </mat-button-toggle-group>
          @if (sound.polyphony !== 'many' && sound.polyphony > 1) {
            <pc-number-field
              label="Voices of the sound"
              [value]="sound.polyphony"
              [min]="2"
              [max]="64"
              (changed)="editing.changeSound(sound.id, { polyphony: $event.value }, $event.gesture)"
            />
          }
          <pc-stolen-flag [layerId]="layer().id" />
        </div>
        @if (sound.polyphony === 1) {
          <p class="soft">The last key struck is heard; let go, the one still held comes back.</p>
          <pc-amount
            name="glide"
            label="Glide from note to note, seconds"
            kind="decimal"
            unit="s"
            [value]="sound.glideSeconds"
            [min]="0"
            [max]="5"
            [step]="0.02"
            (changed)="
              editing.changeSound(sound.id, { glideSeconds: $event.value }, $event.gesture)
            "
          />
        }
      </div>
      <div class="colour">
        @for (part of parts; track part) {
          <pc-amount
            kind="percent"
            unit="%"
            [name]="part"
            [label]="part + ' of the sound, percent'"
            [value]="sound.timbre[part]"
            [min]="least[part]"
            [max]="1"
            [step]="0.05"
            (changed)="setTimbre(part, $event)"
          >
            <pc-tie-button [target]="targetOf(part)" [what]="part + ' of ' + everyone()" />
          </pc-amount>
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(260px, 1fr) minmax(260px, 0.9fr) minmax(340px, 1.2fr);
      gap: 22px;
    }
    .who:focus {
      outline: none;
    }
    .who,
    .voices,
    .colour {
      display: grid;
      align-content: start;
      justify-items: start;
      gap: 7px;
    }
    pc-stolen-flag {
      align-self: end;
      margin-top: 22px;
      width: 76px;
    }
    pc-amount {
      width: 100%;
      --amount-end: clamp(56px, 8vw, 104px);
    }
    .who > p:first-child {
      display: flex;
      align-items: center;
      gap: 10px;
    }
    .shared {
      border-left: 3px solid var(--sea);
      padding-left: 8px;
    }
    .soft {
      color: var(--ink-soft);
      font-size: 13px;
    }
    .share,
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px;
    }
  `,
})
export class SoundTab {
  readonly patch = input.required<Patch>();
  readonly layer = input.required<Layer>();
  readonly library = input.required<readonly Sound[]>();
  /** The player wants another sound for the layer. */
  readonly swapAsked = output();

  protected readonly editing = inject(PatchEditing);
  private readonly actions = inject(PatchActions);
  private readonly injector = inject(Injector);
  private readonly who = viewChild<ElementRef<HTMLElement>>('who');
  protected readonly parts = TIMBRE_PARTS;
  protected readonly least = LEAST_TIMBRE;
  protected readonly sound = computed(
    () => this.patch().sounds.find(({ id }) => id === this.layer().soundId) ?? null,
  );
  protected readonly voices = computed((): VoiceChoice => {
    const polyphony = this.sound()?.polyphony;
    return polyphony === undefined || polyphony === 'many'
      ? 'many'
      : polyphony > 1
        ? 'some'
        : 'one';
  });
  protected readonly name = computed(() => {
    const id = this.sound()?.librarySoundId;
    return this.library().find((sound) => sound.id === id)?.name ?? 'a sound that is gone';
  });
  protected readonly sharers = computed(() => {
    const { id, soundId } = this.layer();
    return this.patch().layers.filter((layer) => layer.soundId === soundId && layer.id !== id);
  });
  protected readonly others = computed(() => {
    const { soundId } = this.layer();
    return this.patch().layers.filter((layer) => layer.soundId !== soundId);
  });
  protected readonly everyone = computed(() =>
    [this.layer(), ...this.sharers()].map(({ name }) => name).join(' and '),
  );

  protected setVoices(soundId: string, voices: VoiceChoice): void {
    const polyphony = { many: 'many', some: FIRST_VOICES, one: 1 } as const;
    this.editing.changeSound(soundId, { polyphony: polyphony[voices] });
  }

  protected setTimbre(part: TimbrePart, { value, gesture }: { value: number; gesture: string }) {
    const sound = this.sound();
    if (!sound) return;
    const timbre = { ...sound.timbre, [part]: value };
    this.editing.changeSound(sound.id, { timbre }, `${gesture} ${part}`);
  }

  protected targetOf(part: TimbrePart): ControlTarget {
    return { kind: 'sound', patchSoundId: this.layer().soundId, parameter: part };
  }

  protected makeOwn(): void {
    this.editing.makeOwn(this.layer());
    this.stayNear();
  }

  protected shareWith(other: Layer): void {
    this.editing.shareWith(this.layer(), other);
    this.stayNear();
  }

  /** The button that was pressed is there no longer; the focus stays beside it. */
  private stayNear(): void {
    afterNextRender(() => this.who()?.nativeElement.focus(), { injector: this.injector });
  }

  protected keepSound(): void {
    const sound = this.sound();
    if (sound) void this.actions.keepSound(this.name(), sound);
  }

  protected keepLayer(): void {
    void this.actions.keepLayer(this.layer().id);
  }
}
