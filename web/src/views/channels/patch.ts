import { api, get, type Schemas } from '../../api/client';
import type { Channel } from './health';

type Change = Partial<Omit<Schemas['ChannelsChannelPatch'], 'version'>>;

/** Changes some of what is said of a channel; the rest stays. */
export const patchChannel = (c: Channel, change: Change) =>
  get(
    api.PATCH('/api/channels/{id}', {
      params: { path: { id: c.id } },
      body: {
        name: null,
        writesBack: null,
        feeds: null,
        mailsSent: null,
        mailsWaiting: null,
        paused: null,
        intervalSeconds: null,
        ...change,
        version: c.version
      }
    })
  );
