package dev.nachlauf.service.web;

import java.time.Duration;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.ViewControllerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Serves the console: its own addresses lead to its one page, which is never cached; its hashed files are, for ever. */
@Configuration
class ConsoleRoutes implements WebMvcConfigurer {
    private static final String PAGE = "forward:/index.html";

    @Override
    public void addViewControllers(ViewControllerRegistry registry) {
        for (String place : new String[] {"sources", "jobs", "runs", "rejects", "crosswalks", "connections"}) {
            registry.addViewController("/" + place).setViewName(PAGE);
            registry.addViewController("/" + place + "/{name}").setViewName(PAGE);
            registry.addViewController("/" + place + "/{name}/{part}").setViewName(PAGE);
        }
        registry.addViewController("/").setViewName(PAGE);
    }

    @Override
    public void addResourceHandlers(ResourceHandlerRegistry registry) {
        registry.addResourceHandler("/assets/**")
                .addResourceLocations("classpath:/static/assets/")
                .setCacheControl(CacheControl.maxAge(Duration.ofDays(365)).immutable());
        registry.addResourceHandler("/index.html", "/favicon.svg")
                .addResourceLocations("classpath:/static/")
                .setCacheControl(CacheControl.noCache());
    }
}
