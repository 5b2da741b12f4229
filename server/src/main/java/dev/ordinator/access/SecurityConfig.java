package dev.ordinator.access;

import dev.ordinator.platform.Problem;
import dev.ordinator.platform.ProblemWriter;
import jakarta.servlet.DispatcherType;
import java.time.Clock;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.CsrfConfigurer;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.access.intercept.AuthorizationFilter;
import org.springframework.security.web.authentication.logout.HttpStatusReturningLogoutSuccessHandler;
import org.springframework.security.web.context.SecurityContextHolderFilter;
import org.springframework.security.web.csrf.CsrfException;
import org.springframework.security.web.savedrequest.NullRequestCache;

/** Who may ask for what: the whole of it on one page. */
@Configuration
class SecurityConfig {
  private static final String MANAGER = Role.MANAGER.name();
  private static final String PACKER = Role.PACKER.name();
  private static final String READER = Role.READER.name();

  private static final String CONTENT_SECURITY_POLICY =
      "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:;"
          + " object-src 'none'; base-uri 'self'; form-action 'self'; frame-ancestors 'none'";

  private static final Problem NOT_LOGGED_IN = Problem.unauthorized("you are not logged in");
  private static final Problem NO_TOKEN =
      Problem.unauthorized("no token that is known came with it");
  private static final Problem WRONG = Problem.unauthorized("log-in name or password is wrong");
  private static final Problem LOCKED = Problem.tooMany("too many wrong passwords; wait a while");
  private static final Problem NO_SCOPE = Problem.notAllowed("the token’s scopes don’t allow that");
  private static final Problem NO_ROLE = Problem.notAllowed("your role does not allow that");
  private static final Problem NO_CSRF =
      Problem.notAllowed("the request carries no token of this session; load the page again");

  @Bean
  PasswordEncoder passwordEncoder() {
    return new BCryptPasswordEncoder();
  }

  /** Machines: a token each time, and no session. */
  @Bean
  @Order(1)
  SecurityFilterChain machines(
      HttpSecurity http, MachineTokens tokens, MachineRateLimiter rate, ProblemWriter problems)
      throws Exception {
    return http.securityMatcher("/api/machine/**", "/api/availability", "/api/promises")
        .authorizeHttpRequests(a ->
            a.requestMatchers("/api/availability", "/api/promises")
                .hasAuthority(Scope.AVAILABILITY.authority())
                .requestMatchers(HttpMethod.GET, "/api/machine/**")
                .hasAuthority(Scope.ORDERS_READ.authority())
                .anyRequest()
                .hasAuthority(Scope.ORDERS_WRITE.authority()))
        .addFilterBefore(new BearerFilter(tokens, rate, problems), AuthorizationFilter.class)
        .sessionManagement(s -> s.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
        .csrf(CsrfConfigurer::disable)
        .requestCache(c -> c.requestCache(new NullRequestCache()))
        .exceptionHandling(e ->
            e.authenticationEntryPoint(
                    (request, response, why) -> {
                      response.setHeader("WWW-Authenticate", "Bearer");
                      problems.write(NO_TOKEN, response);
                    })
                .accessDeniedHandler((request, response, why) -> {
                  response.setHeader("WWW-Authenticate", "Bearer error=\"insufficient_scope\"");
                  problems.write(NO_SCOPE, response);
                }))
        .build();
  }

  @Bean
  SecurityFilterChain access(HttpSecurity http, ProblemWriter problems, Clock clock)
      throws Exception {
    return http.addFilterBefore(new SessionTimeLimit(clock), SecurityContextHolderFilter.class)
        .authorizeHttpRequests(a ->
            a.dispatcherTypeMatchers(DispatcherType.ERROR)
                .permitAll()
                .requestMatchers("/api/login", "/api/setup", "/actuator/health")
                .permitAll()
                // channels sign their messages instead
                .requestMatchers(HttpMethod.POST, "/hooks/**")
                .permitAll()
                // buyers come by links that we signed
                .requestMatchers("/answer/*")
                .permitAll()
                .requestMatchers("/api/session", "/api/logout", "/api/live")
                .authenticated()
                // what packing needs
                .requestMatchers(HttpMethod.GET, "/api/dispatch/**", "/api/counts", "/api/counts/*")
                .hasAnyRole(MANAGER, PACKER, READER)
                .requestMatchers("/api/dispatch/**", "/api/counts/*/found", "/api/counts/*/finish")
                .hasAnyRole(MANAGER, PACKER)
                // what only asks changes nothing
                .requestMatchers(
                    "/api/rulebook/trials",
                    "/api/rulebook/trial",
                    "/api/rulebook/expressions",
                    "/api/backorders/items/*/move/preview")
                .hasAnyRole(MANAGER, READER)
                .requestMatchers(HttpMethod.GET, "/api/**")
                .hasAnyRole(MANAGER, READER)
                .requestMatchers("/api/**")
                .hasRole(MANAGER)
                // the interface's own files hold no data
                .requestMatchers(HttpMethod.GET, "/", "/*.*", "/assets/**")
                .permitAll()
                .anyRequest()
                .denyAll())
        .csrf(c -> c.spa().ignoringRequestMatchers("/hooks/**", "/answer/*"))
        .requestCache(c -> c.requestCache(new NullRequestCache()))
        .formLogin(f ->
            f.loginProcessingUrl("/api/login")
                .successHandler((request, response, who) -> response.setStatus(204))
                .failureHandler((request, response, e) ->
                    problems.write(e instanceof LockedException ? LOCKED : WRONG, response)))
        .logout(l ->
            l.logoutUrl("/api/logout")
                .logoutSuccessHandler(
                    new HttpStatusReturningLogoutSuccessHandler(HttpStatus.NO_CONTENT)))
        .exceptionHandling(e ->
            e.authenticationEntryPoint(
                    (request, response, why) -> problems.write(NOT_LOGGED_IN, response))
                .accessDeniedHandler((request, response, why) ->
                    problems.write(why instanceof CsrfException ? NO_CSRF : NO_ROLE, response)))
        .headers(h ->
            h.contentSecurityPolicy(c -> c.policyDirectives(CONTENT_SECURITY_POLICY))
                .referrerPolicy(r -> {}))
        .build();
  }
}
