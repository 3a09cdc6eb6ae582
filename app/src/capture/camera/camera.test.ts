import { CameraError } from './camera';
import { openDevice } from './device';

describe('what is in the way of a camera', () => {
  const secure = (value: boolean) => Object.defineProperty(window, 'isSecureContext', { value, configurable: true });
  const devices = (getUserMedia: unknown) =>
    Object.defineProperty(navigator, 'mediaDevices', { value: getUserMedia && { getUserMedia }, configurable: true });

  test.each([
    ['NotAllowedError', 'refused'],
    ['NotFoundError', 'none'],
    ['NotReadableError', 'taken'],
    ['TypeError', 'fault'],
  ])('%s is told as "%s"', async (name, fault) => {
    secure(true);
    devices(() => Promise.reject(Object.assign(new Error(name), { name })));
    await expect(openDevice(null)).rejects.toMatchObject({ fault });
  });

  test('an insecure address and a browser without cameras', async () => {
    secure(false);
    await expect(openDevice(null)).rejects.toMatchObject({ fault: 'insecure' });
    secure(true);
    devices(undefined);
    await expect(openDevice(null)).rejects.toBeInstanceOf(CameraError);
  });
});
