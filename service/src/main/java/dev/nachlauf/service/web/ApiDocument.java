package dev.nachlauf.service.web;

import dev.nachlauf.api.CrosswalkEntries;
import dev.nachlauf.api.JobTrial;
import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.ProfileView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.SharedChange;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.api.SourceView;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import java.lang.reflect.RecordComponent;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What the OpenAPI document says beside what can be read off the controllers: which values are never null. */
@Configuration
class ApiDocument {
    private static final String PACKAGE = RunView.class.getPackageName();
    /** Views whose parts are views of their own. */
    private static final List<Class<?>> HOLDERS = List.of(
            LedgerRowView.class,
            RunView.class,
            SourceView.class,
            ProfileView.class,
            SourceRequest.class,
            SharedChange.class,
            JobTrial.class,
            CrosswalkEntries.class);

    @Bean
    OpenApiCustomizer requiredProperties() {
        return document -> {
            // no address: the document is the same wherever the service runs
            document.info(new Info().title("Nachlauf").version("1")).servers(List.of());
            schemas(document).forEach((name, schema) -> {
                Class<?> view = view(name);
                if (view.isRecord()) {
                    schema.setRequired(Arrays.stream(view.getRecordComponents())
                            .filter(component -> !isNullable(component))
                            .map(RecordComponent::getName)
                            .toList());
                }
            });
        };
    }

    @SuppressWarnings("rawtypes") // the library's own signature
    private static Map<String, Schema> schemas(OpenAPI document) {
        return document.getComponents().getSchemas();
    }

    private static boolean isNullable(RecordComponent component) {
        return component.getAnnotatedType().isAnnotationPresent(Nullable.class);
    }

    private static Class<?> view(String name) {
        for (Class<?> holder : HOLDERS) {
            for (Class<?> nested : holder.getDeclaredClasses()) {
                if (nested.getSimpleName().equals(name)) {
                    return nested;
                }
            }
        }
        if (name.startsWith("Page")) {
            return Page.class;
        }
        try {
            return Class.forName(PACKAGE + "." + name);
        } catch (ClassNotFoundException e) {
            return Object.class;
        }
    }
}
