import type { CameraChoice, RunningCamera } from './camera';
import { deviceCameras, openDevice } from './device';
import { isStandIn, openStandIn, standIns } from './standIn';

/** Opens a camera by its id; without one, the device's usual camera. */
export const openCamera = (id: string | null): Promise<RunningCamera> => (isStandIn(id) ? openStandIn(id) : openDevice(id));

/** All there is to choose from: the device's own, then the stand-ins. */
export const cameraChoices = async (): Promise<CameraChoice[]> => [...(await deviceCameras().catch(() => [])), ...standIns];
