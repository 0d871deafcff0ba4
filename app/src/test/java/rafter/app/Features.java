package rafter.app;

import java.util.stream.Stream;
import org.springframework.modulith.core.ApplicationModuleDetectionStrategy;
import org.springframework.modulith.core.JavaPackage;

/** What counts as a module: each feature of an area, and the platform. An area is a floor of the house and has no code of its own. */
public class Features implements ApplicationModuleDetectionStrategy {

    private static final String PLATFORM = "rafter.app.platform";

    @Override
    public Stream<JavaPackage> getModuleBasePackages(JavaPackage base) {
        return base.getDirectSubPackages().stream()
                .flatMap(area ->
                        area.getName().equals(PLATFORM) ? Stream.of(area) : area.getDirectSubPackages().stream());
    }
}
