import { describe, expect, it } from 'vitest';
import { readSettings } from './settings.ts';
import { StartError } from './start-error.ts';

const faultsOf = (environment: Record<string, string>): string[] => {
  try {
    readSettings(environment, '/');
    return [];
  } catch (error) {
    expect(error).toBeInstanceOf(StartError);
    return (error as Error).message.split('\n').map((line) => /OJO_\w+/.exec(line)?.[0] ?? line);
  }
};

describe('settings', () => {
  it('that are wrong are named all at once', () => {
    const wrong = {
      OJO_PORT: '99999',
      OJO_LOG: 'loud',
      OJO_MAIL_FROM: 'nobody',
      OJO_REPORTS_ADDRESS: 'no address',
      OJO_METRICS_TOKEN: 'short',
    };
    expect(faultsOf(wrong).sort()).toEqual(Object.keys(wrong).sort());
  });

  it('that there are not are left alone and said', () => {
    const { unknown } = readSettings({ OJO_PROT: '1', OJO_DRILL_SECONDS: '1', PATH: '/bin' }, '/');
    expect(unknown).toEqual(['OJO_PROT']);
  });

  it('have reports read where the stand-in sends them, and by a real mail server only where it is said whereto', () => {
    const real = { OJO_SMTP_URL: 'smtp://mail.museum.example' };
    expect(readSettings({}, '/').reports).toMatchObject({ address: 'ojo@marisma.example', port: 4315 });
    expect(readSettings(real, '/').reports).toBeNull();
    expect(readSettings({ ...real, OJO_REPORTS_ADDRESS: 'back@museum.example' }, '/').reports).toMatchObject({
      address: 'back@museum.example',
    });
  });

  it('give each further server a port of its own, and the stand-ins to the first', () => {
    expect(readSettings({}, '/')).toMatchObject({ port: 4310, isFirst: true });
    expect(readSettings({ OJO_SERVER: '3' }, '/')).toMatchObject({
      port: 4330,
      isFirst: false,
      base: 'http://localhost:4310',
    });
  });
});
