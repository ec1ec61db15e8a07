import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import {
  cutText,
  LONGEST_NAME,
  MOST_RECIPES,
  MOST_STEPS,
  type ControlBox,
  type Keyboard,
  type Recipe,
  type RecipeStep,
} from '@pentachord/core/model';
import type { NoteNaming } from '@pentachord/core/pitch';
import { RecipeRun, stepInWords } from '@pentachord/core/settings';
import { Live } from '../../live/live';
import { RigEditing } from '../../state/editing/rig-editing';
import { NumberField } from '../../ui/numbers/number-field';
import { AskedFor } from './asked-for';

const LONGEST_BUTTON = 40;
const KINDS: readonly { kind: RecipeStep['kind']; words: string }[] = [
  { kind: 'hold', words: 'hold a button' },
  { kind: 'press', words: 'press a button' },
  { kind: 'key', words: 'press a key' },
  { kind: 'letGo', words: 'let go of a button' },
  { kind: 'arrivesOn', words: 'see that it arrives on a channel' },
];

/** How a device is set by hand, step by step: each lights up on the drawing, and is ticked off as it is seen to work. */
@Component({
  selector: 'pc-recipe-tab',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, MatSelectModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './recipe-tab.html',
  styleUrl: './recipe-tab.scss',
})
export class RecipeTab {
  readonly device = input.required<Keyboard | ControlBox>();
  /** Index of the device in the rig that plays. */
  readonly index = input(-1);
  readonly middleC = input<NoteNaming>(4);

  private readonly editing = inject(RigEditing);
  private readonly asked = inject(AskedFor);
  protected readonly kinds = KINDS;
  protected readonly mostSteps = MOST_STEPS;
  private readonly chosenId = signal<string | null>(null);
  /** The recipe that is gone through, looked at anew with every step. */
  protected readonly run = signal<{ run: RecipeRun; at: number; problem: string | null } | null>(
    null,
  );

  private readonly all = computed(() => this.editing.rig()?.recipes ?? []);
  protected readonly recipes = computed(() =>
    this.all().filter(({ deviceId }) => deviceId === this.device().id),
  );
  protected readonly chosen = computed(
    () => this.recipes().find(({ id }) => id === this.chosenId()) ?? this.recipes().at(0) ?? null,
  );
  protected readonly hasRoom = computed(() => this.all().length < MOST_RECIPES);
  protected readonly steps = computed(() => {
    const run = this.run();
    return (this.chosen()?.steps ?? []).map((step, at) => ({
      ...{ step, at, words: stepInWords(step, this.middleC()) },
      done: run !== null && at < run.at,
      waits: run !== null && at === run.at,
    }));
  });
  protected readonly told = computed(() => {
    const run = this.run();
    if (!run) return '';
    if (run.problem) return run.problem;
    const { step } = run.run;
    return step ? `Now: ${stepInWords(step, this.middleC())}.` : 'Done, and seen to work.';
  });

  constructor() {
    const untap = inject(Live).host.tap((_time, _port, device, status, data1, data2) => {
      const run = this.run();
      if (!run || device !== this.index()) return;
      run.run.message(status, data1, data2);
      this.look(run.run);
    });
    inject(DestroyRef).onDestroy(() => {
      untap();
      this.asked.key.set(null);
    });
  }

  protected choose(id: string): void {
    this.stop();
    this.chosenId.set(id);
  }

  protected add(): void {
    const id = crypto.randomUUID();
    const recipe: Recipe = {
      ...{ id, deviceId: this.device().id, name: 'Change the channel' },
      steps: [
        { kind: 'hold', button: 'the set button' },
        { kind: 'key', key: this.lowestKey() },
        { kind: 'letGo', button: 'the set button' },
        { kind: 'arrivesOn', channel: this.device().channel },
      ],
    };
    this.replace([...this.all(), recipe], 'steps by hand added');
    this.choose(id);
  }

  protected remove(): void {
    const { id } = this.chosen() ?? {};
    this.stop();
    this.replace(
      this.all().filter((one) => one.id !== id),
      'steps by hand removed',
    );
  }

  protected rename(text: string): void {
    const name = cutText(text, LONGEST_NAME);
    if (name !== '') this.change({ name });
  }

  protected addStep(): void {
    const steps = this.chosen()?.steps ?? [];
    this.change({ steps: [...steps, { kind: 'press', button: 'a button' }] });
  }

  protected removeStep(at: number): void {
    const steps = this.chosen()?.steps ?? [];
    if (steps.length > 1) this.change({ steps: steps.toSpliced(at, 1) });
  }

  protected setKind(at: number, kind: RecipeStep['kind']): void {
    const before = this.chosen()?.steps.at(at);
    const button = before && 'button' in before ? before.button : 'a button';
    if (kind === 'key') this.setStep(at, { kind, key: this.lowestKey() });
    else if (kind === 'arrivesOn') this.setStep(at, { kind, channel: this.device().channel });
    else this.setStep(at, { kind, button });
  }

  protected setButton(at: number, step: RecipeStep, text: string): void {
    const button = cutText(text, LONGEST_BUTTON);
    if ('button' in step && button !== '') this.setStep(at, { ...step, button });
  }

  protected setStep(at: number, step: RecipeStep, gesture?: string): void {
    const steps = this.chosen()?.steps ?? [];
    this.change({ steps: steps.with(at, step) }, gesture);
  }

  protected begin(): void {
    const recipe = this.chosen();
    if (recipe) this.look(new RecipeRun(recipe));
  }

  protected say(): void {
    const run = this.run()?.run;
    run?.say();
    if (run) this.look(run);
  }

  protected back(): void {
    const run = this.run()?.run;
    run?.back();
    if (run) this.look(run);
  }

  protected stop(): void {
    this.run.set(null);
    this.asked.key.set(null);
  }

  private look(run: RecipeRun): void {
    this.run.set({ run, at: run.at, problem: run.problem });
    const { step } = run;
    const deviceId = this.device().id;
    this.asked.key.set(step ? { deviceId, key: step.kind === 'key' ? step.key : null } : null);
  }

  private change(changes: Partial<Recipe>, gesture?: string): void {
    const { id } = this.chosen() ?? {};
    this.stop();
    this.replace(
      this.all().map((one) => (one.id === id ? { ...one, ...changes } : one)),
      'steps by hand changed',
      gesture,
    );
  }

  private replace(recipes: Recipe[], words: string, gesture?: string): void {
    this.editing.changeRig({ recipes }, words, gesture);
  }

  private lowestKey(): number {
    const device = this.device();
    return device.kind === 'keyboard' ? device.lowestKey : (device.padNotes.at(0) ?? 36);
  }
}
