package dev.ordinator.core.dispatch;

/**
 * When goods that are held for a consignment leave their node's stock; until then they are
 * allocated. In the order in which a consignment comes to it.
 */
public enum LeaveMoment {
  /** As soon as the node has been told. */
  RELEASE,
  /** When all of it is in the parcel. */
  PACK,
  /** When the parcel has its label. */
  LABEL,
  HAND_OVER;

  /** Whether it has come once a consignment reached another moment. */
  public boolean hasComeAt(LeaveMoment reached) {
    return compareTo(reached) <= 0;
  }
}
