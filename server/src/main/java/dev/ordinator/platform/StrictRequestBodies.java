package dev.ordinator.platform;

import org.springframework.context.annotation.Configuration;
import org.springframework.http.converter.HttpMessageConverters;
import org.springframework.http.converter.json.JacksonJsonHttpMessageConverter;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import tools.jackson.core.JsonParser;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.cfg.CoercionAction;
import tools.jackson.databind.cfg.CoercionInputShape;
import tools.jackson.databind.deser.std.StdScalarDeserializer;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;
import tools.jackson.databind.type.LogicalType;

/**
 * Bodies of requests are taken at their word: a value of another type than the one that belongs
 * there is refused and not bent, and texts are what they look like.
 */
@Configuration
class StrictRequestBodies implements WebMvcConfigurer {
  private final JsonMapper json;

  StrictRequestBodies(JsonMapper json) {
    this.json = json;
  }

  @Override
  public void configureMessageConverters(HttpMessageConverters.ServerBuilder converters) {
    converters.withJsonConverter(
        new JacksonJsonHttpMessageConverter(
            json.rebuild()
                .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                .disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)
                .disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)
                .withCoercionConfig(
                    LogicalType.Textual,
                    texts -> {
                      texts.setCoercion(CoercionInputShape.Integer, CoercionAction.Fail);
                      texts.setCoercion(CoercionInputShape.Float, CoercionAction.Fail);
                      texts.setCoercion(CoercionInputShape.Boolean, CoercionAction.Fail);
                    })
                .addModule(new SimpleModule().addDeserializer(String.class, new PlainText()))
                .build()));
  }

  /** A text in Unicode's composed form (NFC), without characters that can't be written. */
  private static final class PlainText extends StdScalarDeserializer<String> {
    PlainText() {
      super(String.class);
    }

    @Override
    public String deserialize(JsonParser in, DeserializationContext context) {
      String text = _parseString(in, context, this);
      if (Texts.hasControls(text)) {
        return context.reportInputMismatch(this, "has a control character");
      }
      return Texts.composed(text);
    }

    @Override
    public LogicalType logicalType() {
      return LogicalType.Textual;
    }
  }
}
