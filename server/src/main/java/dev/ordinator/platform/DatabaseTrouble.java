package dev.ordinator.platform;

import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.dao.QueryTimeoutException;
import org.springframework.transaction.CannotCreateTransactionException;

/** Tells what the database could not do just now from what is wrong with what was asked of it. */
public final class DatabaseTrouble {
  private DatabaseTrouble() {}

  /** Whether the same may succeed a little later: the database is away, or too busy. */
  public static boolean isPassing(Throwable e) {
    return isAway(e)
        || e instanceof PessimisticLockingFailureException
        || e instanceof QueryTimeoutException;
  }

  /** Whether the database can't be reached. */
  public static boolean isAway(Throwable e) {
    return e instanceof DataAccessResourceFailureException
        || e instanceof CannotCreateTransactionException;
  }
}
