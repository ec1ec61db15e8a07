/** The parts of a layer that the drawer shows. */
export type DrawerTab = 'touch' | 'sound' | 'balance' | 'treatments' | 'controls';

export const DRAWER_TABS: readonly { tab: DrawerTab; name: string }[] = [
  { tab: 'touch', name: 'Touch' },
  { tab: 'sound', name: 'Sound' },
  { tab: 'balance', name: 'Balance and effects' },
  { tab: 'treatments', name: 'Treatments' },
  { tab: 'controls', name: 'Controls' },
];
