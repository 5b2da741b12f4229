package dev.ordinator.channels;

/** What kind of channel a connection is. */
public enum ChannelKind {
  WEB_SHOP,
  MARKETPLACE,
  WHOLESALE,
  /** Files that people bring. */
  SPREADSHEET,
  /** Systems that call our API. */
  MACHINE,
  /** Orders that our own people enter. */
  BY_HAND
}
