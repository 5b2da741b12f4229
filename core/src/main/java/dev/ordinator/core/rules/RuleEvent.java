package dev.ordinator.core.rules;

/** What can make desk rules look at an order. */
public enum RuleEvent {
  RECEIVED,
  APPROVED
}
