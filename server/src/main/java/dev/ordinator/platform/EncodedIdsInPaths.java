package dev.ordinator.platform;

import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.security.web.firewall.HttpFirewall;
import org.springframework.security.web.firewall.StrictHttpFirewall;

/**
 * Machines name their orders as they like, also {@code 2026/17} or {@code 5%}: such an id, encoded,
 * is one segment of a path. Paths are matched segment by segment, by security as by the
 * application, before any of them is decoded, so that nobody comes past a rule by it.
 */
@Configuration
class EncodedIdsInPaths {
  @Bean
  WebServerFactoryCustomizer<TomcatServletWebServerFactory> slashesWithinSegments() {
    return factory ->
        factory.addConnectorCustomizers(
            connector -> connector.setEncodedSolidusHandling("passthrough"));
  }

  @Bean
  HttpFirewall firewall() {
    StrictHttpFirewall firewall = new StrictHttpFirewall();
    firewall.setAllowUrlEncodedSlash(true);
    firewall.setAllowUrlEncodedDoubleSlash(true);
    firewall.setAllowUrlEncodedPercent(true);
    firewall.setAllowSemicolon(true);
    return firewall;
  }
}
