import type { Device } from '@pentachord/core/model';
import { remove, type Things } from '../show/document';
import { rigEdits, type DeviceChanges, type RigEdit } from './rig-edits';

/** Carries an edit of rigs out on a draft of the things. */
export function carryOutRigEdit(things: Things, edit: RigEdit): void {
  switch (edit.type) {
    case rigEdits.rigAdded.type:
      things.rigs[edit.rig.id] = edit.rig;
      for (const device of edit.devices) things.devices[device.id] = device;
      break;
    case rigEdits.rigChanged.type:
      if (edit.rigId in things.rigs) Object.assign(things.rigs[edit.rigId], edit.changes);
      break;
    case rigEdits.rigRemoved.type:
      // A rig on which a show is played stays.
      if (Object.values(things.shows).some(({ rigId }) => rigId === edit.rigId)) break;
      for (const { id, rigId } of Object.values(things.devices))
        if (rigId === edit.rigId) remove(things.devices, id);
      remove(things.rigs, edit.rigId);
      break;
    case rigEdits.deviceAdded.type:
      if (edit.device.rigId in things.rigs) things.devices[edit.device.id] = edit.device;
      break;
    case rigEdits.deviceChanged.type:
      change(things, edit.deviceId, edit.changes);
      break;
    case rigEdits.deviceRemoved.type:
      remove(things.devices, edit.deviceId);
      break;
    case rigEdits.showMoved.type:
      if (!(edit.showId in things.shows) || !(edit.rigId in things.rigs)) break;
      things.shows[edit.showId].rigId = edit.rigId;
      for (const [id, alsoAt] of Object.entries(edit.standingIn))
        change(things, id, { alsoAt: [...alsoAt] });
      break;
    case rigEdits.rigMended.type: {
      for (const [id, changes] of Object.entries(edit.devices)) change(things, id, changes);
      const patch = edit.patchId === null ? undefined : things.patches[edit.patchId];
      for (const layer of patch?.layers ?? []) Object.assign(layer, edit.layers[layer.id]);
      break;
    }
  }
}

function change(things: Things, id: string, changes: DeviceChanges): void {
  const device = things.devices[id] as Device | undefined;
  if (device) Object.assign(device, changes);
}
