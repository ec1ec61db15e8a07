import * as z from 'zod';

/** An output device as the browser tells of it. */
export interface OutputDevice {
  id: string;
  name: string;
}

const devicesSchema = z.array(
  z.object({ kind: z.string(), deviceId: z.string(), label: z.string() }),
);

/** Devices that sound can come out of, but for the machine’s own choice; none where the browser does not tell. */
export async function outputDevices(): Promise<OutputDevice[]> {
  try {
    const all = devicesSchema.parse(
      (await navigator.mediaDevices.enumerateDevices()).map(({ kind, deviceId, label }) => ({
        ...{ kind, deviceId, label },
      })),
    );
    return all
      .filter(({ kind, deviceId }) => kind === 'audiooutput' && deviceId !== '')
      .filter(({ deviceId }) => deviceId !== 'default')
      .map(({ deviceId, label }, at) => ({ id: deviceId, name: label || `output ${at + 1}` }));
  } catch {
    return [];
  }
}
