import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import {
  controlInWords,
  isControlMessage,
  isStruck,
  layerLetter,
  MOST_CHOICES,
  MOST_CHOOSERS,
  newChooser,
  nextName,
  sameMessage,
  withoutChoice,
  type Choice,
  type Chooser,
  type Picks,
  type Place,
  type ShowMessage,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import { PatchEditing } from '../../state/editing/patch-editing';
import type { AppState } from '../../state/reducers';
import { selectDevices, selectWrittenPatch } from '../../state/selectors';
import { LayerSelection } from '../../state/session/layer-selection';
import { NameField } from '../../ui/names/name-field';

/** Makes and changes the choosers of the patch; controls are learnt by touching them. */
@Component({
  selector: 'pc-choosers-dialog',
  imports: [
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatSelectModule,
    NameField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './choosers-dialog.html',
  styleUrl: './choosers-dialog.scss',
})
export class ChoosersDialog {
  private readonly live = inject(Live);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly editing = inject(PatchEditing);
  private readonly selection = inject(LayerSelection);
  private readonly devices = this.store.selectSignal(selectDevices);
  protected readonly patch = this.store.selectSignal(selectWrittenPatch);
  protected readonly most = MOST_CHOICES;
  protected readonly mostChoosers = MOST_CHOOSERS;
  protected readonly choosers = computed(() => this.patch()?.choosers ?? []);
  protected readonly layers = computed(() =>
    (this.patch()?.layers ?? []).map(({ id, name }, at) => ({ id, name, letter: layerLetter(at) })),
  );
  protected readonly selectedCount = computed(() => this.selection.ids().size);
  /** The chooser and what is to be picked, while a control is waited for. */
  private readonly touch = this.live.touchWait<string>();
  protected readonly waiting = this.touch.waiting;
  protected readonly told = signal('');

  protected add(): void {
    const patch = this.patch();
    if (!patch) return;
    const selected = patch.layers.filter(({ id }) => this.selection.ids().has(id));
    const name = nextName('Chooser', ['Chooser', ...this.choosers().map((one) => one.name)]);
    const chooser = newChooser(
      crypto.randomUUID(),
      this.choosers().length === 0 ? 'Chooser' : name,
      selected.length > 1 ? selected : patch.layers,
    );
    this.put([...this.choosers(), chooser], 'chooser added');
  }

  protected remove(index: number): void {
    this.put(this.choosers().toSpliced(index, 1), 'chooser removed');
  }

  protected change(index: number, changes: Partial<Chooser>): void {
    const all = [...this.choosers()];
    all[index] = { ...all[index], ...changes };
    this.put(all, 'chooser changed');
  }

  protected addChoice(index: number): void {
    const { choices } = this.choosers()[index];
    const names = choices.map(({ name }) => name);
    const choice: Choice = { name: nextName('Choice', ['Choice', ...names]), layerIds: [] };
    this.change(index, { choices: [...choices, choice] });
  }

  protected changeChoice(index: number, at: number, changes: Partial<Choice>): void {
    const choices = [...this.choosers()[index].choices];
    choices[at] = { ...choices[at], ...changes };
    this.change(index, { choices });
  }

  protected removeChoice(index: number, at: number): void {
    this.change(index, withoutChoice(this.choosers()[index], at));
  }

  protected controlsOf({ controls }: Chooser, picks: Picks): string {
    return controls
      .filter((control) => control.picks === picks)
      .map((control) => controlInWords(control, this.devices()))
      .join(', ');
  }

  protected othersOf(chooser: Chooser): string {
    const next = this.controlsOf(chooser, 'next');
    const position = this.controlsOf(chooser, 'position');
    return [next && `next: ${next}`, position && `by where it stands: ${position}`]
      .filter(Boolean)
      .join(' · ');
  }

  /** Waits for a control that picks; pressed again it waits no more. */
  protected wait(index: number, picks: Picks): void {
    const key = `${this.choosers()[index].id} ${picks}`;
    const waits = this.touch.begin(key, () =>
      this.live.host.listenToControls((place, message) => this.learn(index, picks, place, message)),
    );
    if (waits) this.told.set('');
  }

  private learn(index: number, picks: Picks, place: Place, touched: ShowMessage): boolean {
    // Whoever picks by where something stands means every program change.
    const message: ShowMessage =
      picks === 'position' && touched.kind === 'program' ? { kind: 'programs' } : touched;
    const stands = message.kind === 'programs' || (isControlMessage(message) && !isStruck(message));
    if (picks === 'position' && !stands) {
      this.told.set('That is pressed, and stands nowhere: turn a knob, or send a program change.');
      return true;
    }
    const control = { place, message, picks };
    const { controls, name } = this.choosers()[index];
    const others = controls.filter(
      (one) => one.place !== place || !sameMessage(one.message, message),
    );
    this.change(index, { controls: [...others, control] });
    this.told.set(`${controlInWords(control, this.devices())} picks in ${name} now.`);
    this.touch.stop();
    return true;
  }

  private put(choosers: readonly Chooser[], words: string): void {
    this.editing.changeChoosers(choosers, words);
  }
}
