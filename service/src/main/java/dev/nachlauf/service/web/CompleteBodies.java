package dev.nachlauf.service.web;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.core.MethodParameter;
import org.springframework.http.HttpInputMessage;
import org.springframework.http.converter.HttpMessageConverter;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.servlet.mvc.method.annotation.RequestBodyAdviceAdapter;

/** A body lacks nothing that its record demands: what may be null is marked so there, and everything else must be given. */
@RestControllerAdvice
class CompleteBodies extends RequestBodyAdviceAdapter {
    @Override
    public boolean supports(
            MethodParameter parameter, Type target, Class<? extends HttpMessageConverter<?>> converter) {
        return target instanceof Class<?> type && type.isRecord();
    }

    @Override
    public Object afterBodyRead(
            Object body,
            HttpInputMessage message,
            MethodParameter parameter,
            Type target,
            Class<? extends HttpMessageConverter<?>> converter) {
        List<Problem> problems = new ArrayList<>();
        check("", body, problems);
        if (!problems.isEmpty()) {
            throw new CannotGoOn(problems);
        }
        return body;
    }

    private static void check(String path, @Nullable Object value, List<Problem> problems) {
        if (value instanceof Collection<?> items) {
            int index = 0;
            for (Object item : items) {
                check(path + "[" + index++ + "]", item, problems);
            }
        } else if (value instanceof Record body) {
            for (RecordComponent component : body.getClass().getRecordComponents()) {
                check(path, body, component, problems);
            }
        }
    }

    private static void check(String path, Record body, RecordComponent component, List<Problem> problems) {
        String name = path.isEmpty() ? component.getName() : path + "." + component.getName();
        try {
            Object value = component.getAccessor().invoke(body);
            if (value == null && !component.getAnnotatedType().isAnnotationPresent(Nullable.class)) {
                problems.add(Problem.of(
                        ProblemCode.REQUEST_MALFORMED,
                        "The request lacks " + name + ".",
                        "The document at /api/v1/openapi says what it holds."));
            } else {
                check(name, value, problems);
            }
        } catch (ReflectiveOperationException e) {
            throw new IllegalStateException(e);
        }
    }
}
