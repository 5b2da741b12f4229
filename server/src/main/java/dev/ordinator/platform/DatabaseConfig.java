package dev.ordinator.platform;

import java.time.Clock;
import org.jooq.conf.RenderQuotedNames;
import org.springframework.boot.jooq.autoconfigure.DefaultConfigurationCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

@Configuration
class DatabaseConfig {
  @Bean
  Clock clock() {
    return Clock.systemUTC();
  }

  @Bean
  DefaultConfigurationCustomizer jooqSettings() {
    return configuration ->
        configuration
            .settings()
            // set for the session in the JDBC URL instead: jOOQ's own way breaks large MULTISETs
            .withRenderGroupConcatMaxLenSessionVariable(false)
            .withRenderQuotedNames(RenderQuotedNames.EXPLICIT_DEFAULT_UNQUOTED)
            .withRenderSchema(false);
  }

  @Bean
  TransactionTemplate transactions(PlatformTransactionManager manager) {
    return new TransactionTemplate(manager);
  }
}
