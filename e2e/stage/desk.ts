import { expect, type Locator, type Page } from '@playwright/test';

/** The desk as a player sees it. */
export class Desk {
  constructor(readonly page: Page) {}

  /** Opens the application where the player's own work is done. */
  static async visit(page: Page, origin: string): Promise<Desk> {
    await page.goto(`${origin}/patch`);
    return new Desk(page);
  }

  /** Opens a song from the running order and waits until its patch and its sounds are there. */
  async openSong(name: string): Promise<void> {
    await this.page.getByRole('button', { name, exact: true }).click();
    await this.soundsReady();
  }

  /** Sound on, and every sound of the patch made. */
  async soundsReady(): Promise<void> {
    const voices = this.page.getByTestId('voices');
    // Any key turns sound on; pressed again until the desk is there to hear it.
    await expect(async () => {
      await this.page.keyboard.press('Shift');
      await expect(voices).toBeVisible({ timeout: 500 });
    }).toPass();
    await expect(voices).toHaveAttribute('data-ready', 'true', { timeout: 50_000 });
  }

  /** How loud a layer's meter stands, 0–100. */
  async layerMeter(name: string): Promise<number> {
    const meter = this.page.locator(`[data-meter="${name}"]`);
    return Number(await meter.getAttribute('aria-valuenow'));
  }

  /** How loud the analyser finds the output, 0–100. */
  async output(): Promise<number> {
    const meter = this.page.getByRole('meter', { name: 'Output level' });
    return Number(await meter.getAttribute('aria-valuenow'));
  }

  /** Waits until nothing sounds any more: no voice, and nothing in the output. */
  async quiet(): Promise<void> {
    await this.page.waitForFunction(
      () =>
        document.querySelector('[data-testid="voices"]')?.textContent === '0 voices' &&
        document.querySelector('[aria-label="Output level"]')?.getAttribute('aria-valuenow') ===
          '0',
      undefined,
      { timeout: 15_000 },
    );
  }

  remark(words: string | RegExp): Locator {
    return this.page.getByRole('list', { name: 'Remarks' }).getByText(words);
  }

  /** Does what is offered about a remark, wherever it stands: in the heading, or under “more”. */
  async mend(words: RegExp): Promise<void> {
    const heading = this.page.getByRole('list', { name: 'Remarks' });
    const button = heading.getByRole('button', { name: words }).first();
    const more = heading.getByRole('button', { name: /(more|remarks?)$/ });
    await expect(button.or(more).first()).toBeVisible();
    if (await button.isVisible()) {
      await button.click();
      return;
    }
    await more.click();
    await this.page.getByRole('menuitem', { name: words }).first().click();
  }

  field(label: string): Locator {
    return this.page.getByRole('spinbutton', { name: label, exact: true });
  }

  async saved(): Promise<void> {
    // What was done a moment ago is shown with the next frame; before it, “saved” is said of what was before.
    await this.page.evaluate(
      () => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))),
    );
    await expect(this.page.getByTestId('saving')).toHaveText('saved');
  }

  /** What Trace says of a layer. */
  trace(layer: string): Locator {
    return this.page.locator(`pc-trace-panel li[data-layer="${layer}"]`);
  }

  /** Selects a layer in the ledger, alone or besides what is selected. */
  async select(layer: string, besides = false): Promise<void> {
    const row = this.row(layer);
    await row
      .locator('td')
      .first()
      .click({ modifiers: besides ? ['Control'] : [] });
    await expect(row).toHaveAttribute('aria-selected', 'true');
  }

  /** A layer’s row of the ledger. */
  row(layer: string): Locator {
    return this.page.locator('pc-ledger tbody tr').filter({
      has: this.page.getByRole('textbox', { name: `Name of layer ${layer}`, exact: true }),
    });
  }

  /** The layers of the ledger as it stands, from top to bottom. */
  async layers(): Promise<string[]> {
    const names = this.page.getByRole('textbox', { name: /^Name of layer/ });
    return names.evaluateAll((boxes) => boxes.map((box) => (box as HTMLInputElement).value));
  }

  /** Opens one part of a layer in the drawer. */
  async open(layer: string, tab: string): Promise<Locator> {
    await this.page.getByRole('button', { name: `Open ${layer}`, exact: true }).click();
    const drawer = this.page.locator('pc-layer-drawer');
    await drawer.getByRole('tab', { name: tab, exact: true }).click();
    return drawer;
  }

  /** Types a number into a field. */
  async type(label: string, text: string): Promise<void> {
    const field = this.field(label);
    await field.fill(text);
    await field.press('Enter');
  }

  /** Both ends of a layer’s keys as the ledger says them. */
  async keysOf(layer: string): Promise<string> {
    const [low, high] = ['Lowest', 'Highest'].map((end) => this.field(`${end} key of ${layer}`));
    return `${await low.inputValue()}–${await high.inputValue()}`;
  }

  /** The loudest that a layer’s meter stands within some milliseconds. */
  async loudest(layer: string, milliseconds = 500): Promise<number> {
    const end = Date.now() + milliseconds;
    let loudest = 0;
    while (Date.now() < end) loudest = Math.max(loudest, await this.layerMeter(layer));
    return loudest;
  }
}

/** Goes to a room of a view by its tab. */
export async function goToRoom(page: Page, view: 'Library' | 'Rig', room: string): Promise<void> {
  await page.getByRole('link', { name: view, exact: true }).click();
  const tab = page.getByRole('tab', { name: room, exact: true });
  await tab.click();
  // Rooms are fetched when they are first entered; what happens before one is there is not seen from it.
  await expect(tab).toHaveAttribute('aria-selected', 'true');
}

/** Chooses something of the menu at the end of the bar. */
export async function chooseMore(page: Page, name: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: /^More: / }).click();
  const item = page
    .getByRole('menuitem', { name })
    .or(page.getByRole('menuitemcheckbox', { name }));
  await item.click();
}
