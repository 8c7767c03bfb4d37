package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Names are listed as people count. */
class NaturalOrderTest {
    @Test
    void numbersInNamesCountByTheirWorth() {
        List<String> order = List.of(
                "",
                "9",
                "11",
                "103",
                "Mast",
                "Mast 2",
                "mast 3 m",
                "Mast 9 m",
                "Mast 11 m",
                "Mast 12 m 2",
                "mast 12 m 11",
                "Mast 103",
                "Mast 20000000000000000000000000",
                "Mast b",
                "Mast_2",
                "Post 1.2 m",
                "Post 1.10 m",
                "post 2");
        List<String> mixed = new ArrayList<>(order);
        for (int seed = 0; seed < 20; seed++) {
            Collections.shuffle(mixed, new Random(seed));
            mixed.sort(NaturalOrder.BY_NAME);
            assertThat(mixed).isEqualTo(order);
        }
    }

    @Test
    void namesThatCountAlikeFollowEachOther() {
        List<String> alike = new ArrayList<>(List.of("post 2", "Post 02", "Post 2", "Post 3", "post 1"));
        alike.sort(NaturalOrder.BY_NAME);
        assertThat(alike).containsExactly("post 1", "Post 02", "Post 2", "post 2", "Post 3");
    }
}
