package dev.nachlauf.service.environment;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.AsyncHandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** A request names the environment that it is about in its address: {@code ?environment=trial}. */
@Component
class EnvironmentOfRequest implements AsyncHandlerInterceptor, WebMvcConfigurer {
    private static final String NAME = "environment";

    @Override
    public void addInterceptors(InterceptorRegistry registry) {
        registry.addInterceptor(this).addPathPatterns("/api/v1/**");
    }

    @Override
    public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler) {
        String named = request.getParameter(NAME);
        ChosenEnvironment.set(named == null || named.isBlank() ? null : named.strip());
        return true;
    }

    @Override
    public void afterCompletion(
            HttpServletRequest request, HttpServletResponse response, Object handler, @Nullable Exception failure) {
        ChosenEnvironment.set(null);
    }

    /** What answers later does so on another thread. */
    @Override
    public void afterConcurrentHandlingStarted(
            HttpServletRequest request, HttpServletResponse response, Object handler) {
        ChosenEnvironment.set(null);
    }
}
