package rafter.app.platform;

import org.springframework.boot.diagnostics.FailureAnalysis;
import org.springframework.boot.diagnostics.FailureAnalyzer;

/** Says in a sentence why the application does not start, where a setting is the reason. */
class StartProblems implements FailureAnalyzer {

    @Override
    public @org.jspecify.annotations.Nullable FailureAnalysis analyze(Throwable failure) {
        for (Throwable at = failure; at != null; at = at.getCause()) {
            if (at instanceof Problem problem) {
                return new FailureAnalysis(
                        problem.words(),
                        "Change the setting and start again; docs/operators-guide.md tells them all.",
                        failure);
            }
            if (at instanceof IllegalStateException
                    && String.valueOf(at.getMessage()).startsWith("RAFTER_")) {
                return new FailureAnalysis(
                        String.valueOf(at.getMessage()),
                        "Change the setting and start again; docs/operators-guide.md tells them all.",
                        failure);
            }
        }
        return null;
    }
}
