package dev.ordinator.platform;

import com.fasterxml.jackson.databind.ObjectMapper;
import io.swagger.v3.core.jackson.ModelResolver;
import io.swagger.v3.core.jackson.TypeNameResolver;
import io.swagger.v3.core.util.Json31;
import io.swagger.v3.oas.models.Components;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.security.SecurityScheme;
import io.swagger.v3.oas.models.servers.Server;
import java.lang.reflect.RecordComponent;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import tools.jackson.databind.JsonNode;

/**
 * The OpenAPI document, made from the code. The web's types are generated from it, so it says
 * exactly what is always there and what may be null.
 */
@Configuration
class ApiDocument {
  /** By their names in the document. Springdoc names each but once in a process, and so do we. */
  private static final Map<String, Class<?>> CLASSES = new ConcurrentHashMap<>();

  @Bean
  OpenAPI openApi() {
    return new OpenAPI()
        .info(
            new Info()
                .title("Ordinator")
                .version("1")
                .description(
                    "Route, allocate, pack and track the orders of many channels. Amounts are"
                        + " integers in minor units; times are UTC; days are the node's own."))
        .components(
            new Components()
                .addSecuritySchemes(
                    "token", new SecurityScheme().type(SecurityScheme.Type.HTTP).scheme("bearer")))
        // without this, the document would name the address at which it was asked for
        .servers(List.of(new Server().url("/")));
  }

  /** Names a nested record after its outer class too, so that no two are mixed up. */
  @Bean
  ModelResolver modelResolver() {
    // what is read by hand may be any JSON
    SpringDocUtils.getConfig().replaceWithClass(JsonNode.class, Object.class);
    ObjectMapper mapper = Json31.mapper();
    return new ModelResolver(
        mapper,
        new TypeNameResolver() {
          @Override
          protected String nameForClass(Class<?> type, Set<Options> options) {
            Class<?> outer = type.getEnclosingClass();
            String name =
                outer == null
                    ? type.getSimpleName()
                    : outer.getSimpleName().replaceAll("Api$", "") + type.getSimpleName();
            CLASSES.put(name, type);
            return name;
          }
        });
  }

  @Bean
  OpenApiCustomizer exactlyWhatIsThere() {
    return document ->
        document
            .getComponents()
            .getSchemas()
            .forEach((name, schema) -> {
              Class<?> type = typeOf(name);
              // one without a component, or one of several kinds, lists no properties
              if (type != null && type.isRecord() && schema.getProperties() != null) {
                describe(schema, type);
              }
            });
  }

  /** A generic record is named after its parameter too: SliceWorklistRow is a Slice. */
  private static @Nullable Class<?> typeOf(String name) {
    return CLASSES.getOrDefault(
        name,
        CLASSES.values().stream()
            .filter(c -> c.getTypeParameters().length > 0 && name.startsWith(c.getSimpleName()))
            .findFirst()
            .orElse(null));
  }

  private static void describe(Schema<?> schema, Class<?> type) {
    for (RecordComponent component : type.getRecordComponents()) {
      Schema<?> property = schema.getProperties().get(component.getName());
      if (property == null) {
        continue;
      }
      boolean nullable = component.getAnnotatedType().isAnnotationPresent(Nullable.class);
      if (nullable && property.getTypes() != null) {
        Set<String> types = new TreeSet<>(property.getTypes());
        types.add("null");
        property.setTypes(types);
      }
      // null is said by the type where OpenAPI can say it; a nullable reference is optional
      if (!nullable || property.getTypes() != null) {
        schema.addRequiredItem(component.getName());
      }
    }
  }
}
