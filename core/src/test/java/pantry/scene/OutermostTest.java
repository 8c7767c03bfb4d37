package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import pantry.usd.SdfPath;

/** What none of the others holds, found by looking each up, against comparing all pairs. */
class OutermostTest {
    @Provide
    Arbitrary<Set<SdfPath>> paths() {
        Arbitrary<String> name = Arbitraries.of("A", "B", "AB", "C");
        return name.list()
                .ofMinSize(1)
                .ofMaxSize(4)
                .map(names -> SdfPath.of("/" + String.join("/", names)))
                .set()
                .ofMaxSize(20)
                .map(LinkedHashSet::new);
    }

    @Property
    void theSameAsByComparingAllPairs(@ForAll("paths") Set<SdfPath> paths) {
        List<SdfPath> byPairs = paths.stream()
                .filter(path -> paths.stream().noneMatch(other -> !other.equals(path) && path.startsWith(other)))
                .toList();
        assertThat(SceneLayer.outermost(paths)).isEqualTo(byPairs);
    }
}
