/** Speed, each figure beside a baseline measured in the same run. */
@NullMarked
package dev.ordinator.bench;

import org.jspecify.annotations.NullMarked;
