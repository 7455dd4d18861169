package dev.nachlauf.service.web;

import dev.nachlauf.api.Page;
import dev.nachlauf.api.RunView;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.Operation;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.ArraySchema;
import io.swagger.v3.oas.models.media.Content;
import io.swagger.v3.oas.models.media.MediaType;
import io.swagger.v3.oas.models.media.ObjectSchema;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import io.swagger.v3.oas.models.parameters.Parameter;
import io.swagger.v3.oas.models.parameters.QueryParameter;
import io.swagger.v3.oas.models.responses.ApiResponse;
import java.lang.reflect.RecordComponent;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.customizers.OperationCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.web.method.HandlerMethod;

/**
 * Makes the OpenAPI document of the interface: addresses, bodies and answers as the library reads them off the controllers,
 * and what the sources say of them. Only the build has it; the service serves what was made.
 */
@Configuration
class ApiDocument {
    private static final String PACKAGE = RunView.class.getPackageName();
    private static final String PROBLEM = "Problem";
    private static final String LOOK = "#/components/schemas/LookView";
    private static final String ENVIRONMENT = "environment";
    /** What asks systems, or tells runs apart by where they ran. */
    private static final Set<String> IN_AN_ENVIRONMENT =
            Set.of("Connection", "Crosswalk", "Job", "Pieces", "Record", "Run", "Source");

    private static final SourceDocs API = new SourceDocs(Path.of("../api/src/main/java"));
    private static final SourceDocs SERVICE = new SourceDocs(Path.of("src/main/java"));

    /** Every operation says what it is for, bears a telling id, and may answer with findings. */
    @Bean
    OperationCustomizer operations() {
        return (operation, handler) -> {
            String about = handler.getBeanType().getSimpleName().replace("Controller", "");
            String name = handler.getMethod().getName();
            operation.setOperationId(Character.toLowerCase(about.charAt(0)) + about.substring(1) + capital(name));
            operation.setTags(List.of(about));
            String text = SERVICE.method(handler.getBeanType(), name);
            operation.setSummary(SourceDocs.firstSentence(text));
            String rest = SourceDocs.behindFirstSentence(text);
            operation.setDescription(rest.isEmpty() ? null : rest);
            responses(operation, handler);
            if (IN_AN_ENVIRONMENT.contains(about)) {
                operation.addParametersItem(new Parameter().$ref(ENVIRONMENT));
            }
            return operation;
        };
    }

    private static void responses(Operation operation, HandlerMethod handler) {
        if (SERVICE.body(handler.getBeanType(), handler.getMethod().getName()).contains("looks.result(")) {
            operation
                    .getResponses()
                    .addApiResponse(
                            "202",
                            answer(
                                    "It takes longer than the caller waits: the look, whose result is at Location.",
                                    "application/json",
                                    LOOK));
        }
        operation
                .getResponses()
                .addApiResponse(
                        "default",
                        answer(
                                "What stands in the way (RFC 9457), with all findings.",
                                "application/problem+json",
                                "#/components/schemas/" + PROBLEM));
    }

    private static ApiResponse answer(String description, String type, String schema) {
        return new ApiResponse()
                .description(description)
                .content(new Content().addMediaType(type, new MediaType().schema(new Schema<>().$ref(schema))));
    }

    private static String capital(String word) {
        return Character.toUpperCase(word.charAt(0)) + word.substring(1);
    }

    @Bean
    OpenApiCustomizer document() {
        return document -> {
            // no address: the document is the same wherever the service runs
            document.info(new Info()
                            .title("Nachlauf")
                            .version("1")
                            .description(
                                    "Repeatable loads in which every row is accounted for. Every call needs a token"
                                            + " (Authorization: Bearer …)."))
                    .servers(List.of());
            document.getComponents().addSchemas(PROBLEM, problem());
            document.getComponents()
                    .addParameters(
                            ENVIRONMENT,
                            new QueryParameter()
                                    .name(ENVIRONMENT)
                                    .description(
                                            "Where: needed as soon as there is more than one environment. Lists of runs"
                                                    + " show those of all environments without it.")
                                    .schema(new StringSchema()));
            schemas(document).forEach((name, schema) -> describe(view(name), schema));
        };
    }

    private static Schema<?> problem() {
        return new ObjectSchema()
                .description("Findings: the first one in the members of RFC 9457, all of them beside it.")
                .addProperty("title", new StringSchema())
                .addProperty("status", new Schema<Integer>().type("integer"))
                .addProperty("detail", new StringSchema().description("The first finding's sentence."))
                .addProperty("code", new StringSchema().description("The first finding's code."))
                .addProperty(
                        "problems", new ArraySchema().items(new Schema<>().$ref("#/components/schemas/ProblemView")));
    }

    private static void describe(Class<?> view, Schema<?> schema) {
        if (!view.isRecord()) {
            return;
        }
        schema.setRequired(Arrays.stream(view.getRecordComponents())
                .filter(component -> !isNullable(component))
                .map(RecordComponent::getName)
                .toList());
        String text = API.type(view);
        schema.setDescription(text.isEmpty() ? null : text);
        Map<String, String> components = API.components(view);
        schema.getProperties().forEach((name, property) -> {
            String said = components.get(name);
            if (said != null && property.get$ref() == null) {
                property.setDescription(said);
            }
        });
    }

    @SuppressWarnings("rawtypes") // the library's own signature
    private static Map<String, Schema> schemas(OpenAPI document) {
        return document.getComponents().getSchemas();
    }

    private static boolean isNullable(RecordComponent component) {
        return component.getAnnotatedType().isAnnotationPresent(Nullable.class);
    }

    /** The record behind a schema, also one that stands in another; {@code Object} where there is none. */
    private static Class<?> view(String name) {
        if (name.startsWith("Page")) {
            return Page.class;
        }
        return API.classes(PACKAGE).stream()
                .filter(type -> type.getSimpleName().equals(name))
                .findFirst()
                .<Class<?>>map(type -> type)
                .orElse(Object.class);
    }
}
