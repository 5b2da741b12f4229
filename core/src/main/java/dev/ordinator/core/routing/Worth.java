package dev.ordinator.core.routing;

/**
 * What stock and places are worth to other orders of a batch: who takes some is charged for it.
 * Minor units, never negative.
 */
interface Worth {
  /** To an order alone, nothing is worth anything to others. */
  Worth NOTHING =
      new Worth() {
        @Override
        public long unit(String node, String sku) {
          return 0;
        }

        @Override
        public long place(String node) {
          return 0;
        }
      };

  /** Of a unit of an item at a node. */
  long unit(String node, String sku);

  /** Of a place for a consignment on a node's day. */
  long place(String node);
}
