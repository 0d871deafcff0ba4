package rafter.app.platform;

import jakarta.servlet.http.HttpServletRequest;
import org.jspecify.annotations.Nullable;
import org.springframework.http.server.PathContainer;
import org.springframework.web.servlet.mvc.method.RequestMappingInfo;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import org.springframework.web.util.ServletRequestPathUtils;

/**
 * Finds what answers a request by its path before anything else about it is looked at. The framework asks for the path last, and of hundreds of
 * methods that answer a GET all but one or two are ruled out by their paths.
 */
class PathsFirst extends RequestMappingHandlerMapping {

    @Override
    protected @Nullable RequestMappingInfo getMatchingMapping(RequestMappingInfo mapping, HttpServletRequest request) {
        PathContainer path =
                ServletRequestPathUtils.getParsedRequestPath(request).pathWithinApplication();
        var patterns = mapping.getPathPatternsCondition();
        if (patterns != null && patterns.getPatterns().stream().noneMatch(pattern -> pattern.matches(path))) {
            return null;
        }
        return super.getMatchingMapping(mapping, request);
    }
}
