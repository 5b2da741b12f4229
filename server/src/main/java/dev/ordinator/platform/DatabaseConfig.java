package dev.ordinator.platform;

import java.time.Clock;
import org.jooq.conf.RenderQuotedNames;
import org.springframework.boot.jooq.autoconfigure.DefaultConfigurationCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Profile;

@Configuration
class DatabaseConfig {
  @Bean
  @Profile("!seed")
  Clock clock() {
    return Clock.systemUTC();
  }

  @Bean
  DefaultConfigurationCustomizer jooqSettings() {
    return configuration ->
        configuration
            .settings()
            .withRenderQuotedNames(RenderQuotedNames.EXPLICIT_DEFAULT_UNQUOTED)
            .withRenderSchema(false);
  }
}
