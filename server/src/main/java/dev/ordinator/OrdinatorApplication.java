package dev.ordinator;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;

/** The application: HTTP API, jobs and the interface, in one process; state only in MariaDB. */
@SpringBootApplication(exclude = UserDetailsServiceAutoConfiguration.class)
@ConfigurationPropertiesScan
public class OrdinatorApplication {
  public static void main(String[] args) {
    SpringApplication.run(OrdinatorApplication.class, args);
  }
}
