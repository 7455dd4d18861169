package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a run of a job is to be told when it starts.
 *
 * @param upload what the file is called that the run has to be given; null where the job reads its source by itself
 */
public record StartQuestions(
        List<ParameterView> parameters, @Nullable String upload) {}
