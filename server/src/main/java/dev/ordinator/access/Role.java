package dev.ordinator.access;

/** What a person may do. */
public enum Role {
  /** Everything. */
  MANAGER,
  /** What packing needs, at one node. */
  PACKER,
  /** Sees everything, changes nothing. */
  READER
}
