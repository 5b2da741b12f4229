package dev.ordinator;

import dev.ordinator.planning.PlanCommand;
import java.util.Arrays;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;

/** The application: HTTP API, jobs and the interface, in one process; state only in MariaDB. */
@SpringBootApplication(exclude = UserDetailsServiceAutoConfiguration.class)
@ConfigurationPropertiesScan
public class OrdinatorApplication {
  public static void main(String[] args) {
    if (args.length > 0 && args[0].equals("plan")) {
      System.exit(
          PlanCommand.run(Arrays.copyOfRange(args, 1, args.length), System.out, System.err));
    }
    SpringApplication.run(OrdinatorApplication.class, args);
  }
}
