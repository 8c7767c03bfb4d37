package pantry.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

class SearchTokensTest {
    @Provide
    Arbitrary<String> shortWords() {
        return Arbitraries.strings().withChars('a', 'b', 'c').ofMinLength(1).ofMaxLength(7);
    }

    /** The distance by the textbook's table, with exchanged neighbours (F. J. Damerau, CACM 7, 1964). */
    private static int distance(String a, String b) {
        int[][] d = new int[a.length() + 1][b.length() + 1];
        for (int i = 0; i <= a.length(); i++) {
            for (int k = 0; k <= b.length(); k++) {
                if (i == 0 || k == 0) {
                    d[i][k] = i + k;
                    continue;
                }
                int other = a.charAt(i - 1) == b.charAt(k - 1) ? 0 : 1;
                d[i][k] = Math.min(Math.min(d[i - 1][k] + 1, d[i][k - 1] + 1), d[i - 1][k - 1] + other);
                if (i > 1 && k > 1 && a.charAt(i - 1) == b.charAt(k - 2) && a.charAt(i - 2) == b.charAt(k - 1)) {
                    d[i][k] = Math.min(d[i][k], d[i - 2][k - 2] + 1);
                }
            }
        }
        return d[a.length()][b.length()];
    }

    @Property(tries = 5000)
    void oneErrorIsForgivenAndNoMore(@ForAll("shortWords") String word, @ForAll("shortWords") String typed) {
        int least = Integer.MAX_VALUE;
        for (int end = 0; end <= word.length(); end++) {
            least = Math.min(least, distance(word.substring(0, end), typed));
        }
        assertThat(SearchTokens.beginsNearly(word, typed))
                .as(word + " ~ " + typed)
                .isEqualTo(least <= 1);
    }

    @Property(tries = 2000)
    void anyTextIsUnderstoodOrComplainedOf(@ForAll String text) {
        assertThatCode(() -> SearchText.parse(text)).doesNotThrowAnyException();
    }

    @Provide
    Arbitrary<String> queries() {
        return Arbitraries.strings()
                .withChars("abk :\"-<>=.,0123456789m")
                .ofMaxLength(24)
                .map(text -> text.replace("k:", "height:").replace("b:", "tag:"));
    }

    @Property(tries = 3000)
    void anyQueryIsAnswered(@ForAll("queries") String text) {
        Finder finder = new Finder(List.of());
        Found found = finder.find(SearchText.parse(text), Order.BEST);
        assertThat(found.count()).isZero();
    }

    @Test
    void textsAreTakenApartInAnyScript() {
        assertThat(SearchTokens.of(SearchTokens.folded("Größe, 9-m Mast (alt)")))
                .containsExactly("große", "9", "m", "mast", "alt");
        assertThat(SearchTokens.of(SearchTokens.folded("Çà et là"))).containsExactly("ca", "et", "la");
        assertThat(SearchTokens.of(SearchTokens.folded("Мачта №7"))).containsExactly("мачта", "no7");
        assertThat(SearchTokens.keys("風向計")).containsExactly("風向計", "向計", "計");
        assertThat(SearchTokens.keys("mast")).containsExactly("mast");
        assertThat(SearchTokens.of("")).isEmpty();
        assertThat(SearchTokens.of("🧊 eis")).containsExactly("eis");
    }

    @Test
    void rangesAreReadInTheUnitOfTheirEnd() {
        assertThat(range("height:10..50cm")).containsExactly(0.1, 0.5);
        assertThat(range("height:1..3m")).containsExactly(1, 3);
        assertThat(range("height:..2m")).containsExactly(Double.NEGATIVE_INFINITY, 2);
        assertThat(range("height:3ft..")).containsExactly(3 * 0.3048, Double.POSITIVE_INFINITY);
        assertThat(range("triangles:1k..2m")).containsExactly(1000, 2_000_000);
        assertThat(range("triangles:<=500")[1]).isEqualTo(500);
        assertThat(range("triangles:<500")[1]).isLessThan(500);
        assertThat(range("height:1,5m")).as("a comma for a point").containsExactly(1.45, 1.55);
        assertThat(range("versions:2")).containsExactly(2, 2);
        assertThat(range("changed:2026-02")[1] - range("changed:2026-02")[0]).isEqualTo(28 * 86_400_000.0 - 1);
        assertThat(SearchText.parse("changed:2026-13").complaints()).hasSize(1);
        assertThat(SearchText.parse("height:3..x").complaints()).hasSize(1);
    }

    private static double[] range(String text) {
        Search.Filter.Range range =
                (Search.Filter.Range) SearchText.parse(text).filters().getFirst();
        return new double[] {range.least(), range.most()};
    }
}
