import { wrap } from 'svelte-spa-router/wrap';

/** The views of the rail that work; each is loaded when it is first opened. */
export const VIEWS = [
  { name: 'Today', path: '/today', key: 't', group: 'Work', packer: false },
  { name: 'Orders', path: '/orders', key: 'o', group: 'Work', packer: false },
  { name: 'Dispatch', path: '/dispatch', key: 'd', group: 'Work', packer: true },
  { name: 'Backorders', path: '/backorders', key: 'b', group: 'Work', packer: false },
  { name: 'Suppliers', path: '/suppliers', key: 'u', group: 'Work', packer: false },
  { name: 'Returns', path: '/returns', key: 'e', group: 'Work', packer: false },
  { name: 'Stock', path: '/stock', key: 's', group: 'Shape', packer: false },
  { name: 'Channels', path: '/channels', key: 'c', group: 'Shape', packer: false },
  { name: 'Rulebook', path: '/rulebook', key: 'r', group: 'Shape', packer: false },
  { name: 'Network', path: '/network', key: 'n', group: 'Shape', packer: false }
] as const;

export const viewsFor = (role: string | undefined) => VIEWS.filter((v) => role !== 'PACKER' || v.packer);

const today = wrap({ asyncComponent: () => import('./today/Today.svelte') });
const orders = wrap({ asyncComponent: () => import('./orders/Orders.svelte') });
const dispatch = wrap({ asyncComponent: () => import('./dispatch/Dispatch.svelte') });
const bench = wrap({ asyncComponent: () => import('./dispatch/Bench.svelte') });
const backorders = wrap({ asyncComponent: () => import('./backorders/Backorders.svelte') });
const breaking = wrap({ asyncComponent: () => import('./backorders/Breaking.svelte') });
const runs = wrap({ asyncComponent: () => import('./backorders/Runs.svelte') });
const suppliers = wrap({ asyncComponent: () => import('./suppliers/Suppliers.svelte') });
const returns = wrap({ asyncComponent: () => import('./returns/Returns.svelte') });
const stock = wrap({ asyncComponent: () => import('./stock/Stock.svelte') });
const ledger = wrap({ asyncComponent: () => import('./stock/Ledger.svelte') });
const counts = wrap({ asyncComponent: () => import('./counts/Counts.svelte') });
const countSheet = wrap({ asyncComponent: () => import('./counts/CountSheet.svelte') });
const channels = wrap({ asyncComponent: () => import('./channels/Channels.svelte') });
const rulebook = wrap({ asyncComponent: () => import('./rulebook/Rulebook.svelte') });
const network = wrap({ asyncComponent: () => import('./network/Network.svelte') });

export const routes = {
  '/today': today,
  '/orders': orders,
  '/orders/:id': orders,
  '/dispatch': dispatch,
  '/dispatch/bench/:id': bench,
  '/backorders': backorders,
  '/backorders/promises': breaking,
  '/backorders/runs': runs,
  '/backorders/runs/:id': runs,
  '/backorders/:id': backorders,
  '/suppliers': suppliers,
  '/returns': returns,
  '/returns/:id': returns,
  '/stock': stock,
  '/stock/ledger': ledger,
  '/stock/counts': counts,
  '/stock/counts/:id': countSheet,
  '/stock/:id': stock,
  '/channels': channels,
  '/rulebook': rulebook,
  '/network': network,
  '*': wrap({ asyncComponent: () => import('./NoSuchView.svelte') })
};
