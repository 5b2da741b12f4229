package dev.ordinator.planning;

import dev.ordinator.core.routing.BatchRouter;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.routing.Situation;
import java.util.List;

/** A planning case in core's terms. */
record Case(List<BatchRouter.Order> orders, Ladder ladder, Policy policy, Situation situation) {}
