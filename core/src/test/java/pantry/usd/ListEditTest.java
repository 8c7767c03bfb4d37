package pantry.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.junit.jupiter.api.Test;

class ListEditTest {
    @Test
    void operationsApplyInTheStandardsOrder() {
        ListEdit<String> edit = ListEdit.<String>none()
                .with(ListEdit.Operation.DELETE, List.of("c"))
                .with(ListEdit.Operation.PREPEND, List.of("x", "b"))
                .with(ListEdit.Operation.APPEND, List.of("a", "y"));
        assertThat(edit.applyTo(List.of("a", "b", "c", "d"))).containsExactly("x", "b", "d", "a", "y");
    }

    @Test
    void anExplicitListReplacesTheWeaker() {
        assertThat(ListEdit.explicit(List.of("p", "q", "p")).applyTo(List.of("a")))
                .containsExactly("p", "q");
    }

    @Test
    void reorderingTakesAlongWhatFollows() {
        ListEdit<String> edit = ListEdit.<String>none().with(ListEdit.Operation.REORDER, List.of("d", "b"));
        assertThat(edit.applyTo(List.of("a", "b", "c", "d", "e"))).containsExactly("a", "d", "e", "b", "c");
    }

    @Test
    void pathsKnowTheirParts() {
        SdfPath path = SdfPath.of("/World/Mast{size=tall}Head.xformOp:translate");
        assertThat(path.name()).isEqualTo("xformOp:translate");
        assertThat(path.prim().name()).isEqualTo("Head");
        assertThat(path.prim().parent()).hasToString("/World/Mast{size=tall}");
        assertThat(path.prim().parent().parent()).hasToString("/World/Mast");
        assertThat(path.prim().withoutVariants()).hasToString("/World/Mast/Head");
        assertThat(SdfPath.of("/World/Mast").startsWith(SdfPath.of("/World/Ma")))
                .isFalse();
        assertThat(SdfPath.of("/A/B/C").replacePrefix(SdfPath.of("/A/B"), SdfPath.of("/X")))
                .hasToString("/X/C");
        assertThat(SdfPath.resolve("../Head.size", SdfPath.of("/A/B"))).hasToString("/A/Head.size");
        assertThatThrownBy(() -> SdfPath.of("Mast")).isInstanceOf(UsdException.class);
        assertThatThrownBy(() -> SdfPath.of("/A//B")).isInstanceOf(UsdException.class);
    }
}
