package dev.ordinator.platform;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.event.AbstractSchedulerListener;
import com.github.kagkarlsson.scheduler.event.SchedulerListener;
import com.github.kagkarlsson.scheduler.task.ExecutionComplete;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.util.List;
import javax.sql.DataSource;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.datasource.TransactionAwareDataSourceProxy;
import org.springframework.scheduling.annotation.EnableScheduling;

/**
 * Recurring jobs, of which one instance at a time does each; db-scheduler keeps them in MariaDB.
 */
@Configuration
@EnableScheduling
class JobsConfig {
  @Bean(destroyMethod = "stop")
  Scheduler jobs(
      DataSource source,
      List<RecurringTask<?>> jobs,
      OrdinatorSettings settings,
      WorkHealth health) {
    return Scheduler.create(new TransactionAwareDataSourceProxy(source))
        .startTasks(jobs)
        .threads(4)
        .pollingInterval(settings.workPause())
        // a job whose instance was killed is taken over after four missed beats
        .heartbeatInterval(settings.jobHeartbeat())
        .missedHeartbeatsLimit(4)
        .alwaysPersistTimestampInUTC()
        .addSchedulerListener(telling(health))
        .build();
  }

  private static SchedulerListener telling(WorkHealth health) {
    return new AbstractSchedulerListener() {
      @Override
      public void onExecutionComplete(ExecutionComplete done) {
        String name = done.getExecution().getTaskName();
        if (done.getResult() == ExecutionComplete.Result.OK) {
          health.succeeded(name);
        } else {
          health.failed(name, done.getCause().orElseGet(() -> new IllegalStateException("ended")));
        }
      }
    };
  }

  @EventListener
  void start(ApplicationReadyEvent ready) {
    var context = ready.getApplicationContext();
    if (context.getBean(OrdinatorSettings.class).working()) {
      context.getBean(Scheduler.class).start();
    }
  }
}
