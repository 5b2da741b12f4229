package dev.ordinator.platform;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.core.StandardHost;
import org.apache.catalina.valves.ErrorReportValve;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;

/**
 * What the web server itself refuses, before any of our code sees it (a request line that is none),
 * is answered in our way and not by a page that names the server.
 */
@Configuration
class PlainErrors {

  @Bean
  WebServerFactoryCustomizer<TomcatServletWebServerFactory> errorsWithoutPages() {
    return factory ->
        factory.addContextCustomizers(context ->
            ((StandardHost) context.getParent()).setErrorReportValveClass(Valve.class.getName()));
  }

  /** Made by Tomcat, by its name. */
  public static final class Valve extends ErrorReportValve {

    @Override
    protected void report(Request request, Response response, @Nullable Throwable thrown) {
      int code = response.getStatus();
      if (code < HttpStatus.BAD_REQUEST.value() || response.getContentWritten() > 0) {
        return;
      }
      HttpStatus status = HttpStatus.resolve(code);
      String title = status == null ? "Error" : status.getReasonPhrase();
      String body =
          "{\"type\":\"about:blank\",\"title\":\"%s\",\"status\":%d}".formatted(title, code);
      response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
      try {
        response.getOutputStream().write(body.getBytes(StandardCharsets.UTF_8));
        response.finishResponse();
      } catch (IOException hungUp) {
        // who asked has gone
      }
    }
  }
}
