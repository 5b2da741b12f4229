package dev.ordinator.connecting;

/** Where connecting a channel stands; it can be left at any step and taken up again. */
enum SetupStep {
  CREDENTIALS,
  ORDERS,
  DEFAULTS,
  LISTINGS,
  PREVIEW
}
