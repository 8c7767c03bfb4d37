package pantry.catalogue;

import java.util.AbstractList;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.RandomAccess;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import pantry.base.NaturalOrder;
import pantry.model.ShapeDescriptor;

/**
 * Answers searches over a fixed set of assets, from memory. Immutable but for what it works out when first asked; safe
 * for use by several threads.
 *
 * <p>Cost: a search goes once over the stretches of the words it names and once over all assets, with no allocation for
 * each; the order comes from permutations that are sorted when the finder is made, so nothing is compared while
 * answering.
 */
public final class Finder {
    /** As many tags and shelves as are worth choosing from. */
    private static final int MOST_FACETS = 60;

    private final List<IndexedAsset> items;
    private final Map<Order, int[]> orders = new EnumMap<>(Order.class);
    private final Map<Key, Column> columns = new HashMap<>();
    private final Map<Key, double[]> figures = new EnumMap<>(Key.class);
    private final int[] uses;

    /** Made when words are first looked for: it is most of the work, and the first shelf can be shown without. */
    private @Nullable Vocabulary vocabulary;

    /** @param items all that can be found */
    public Finder(List<IndexedAsset> items) {
        this.items = List.copyOf(items);
        columns.put(Key.KIND, new Column(this.items, item -> List.of(item.kind())));
        columns.put(Key.STATUS, new Column(this.items, item -> List.of(item.status())));
        columns.put(
                Key.LICENCE,
                new Column(this.items, item -> List.of(item.licence().isEmpty() ? "none" : item.licence())));
        columns.put(Key.TAG, new Column(this.items, IndexedAsset::tags));
        columns.put(Key.SHELF, new Column(this.items, item -> List.of(item.shelf())));
        columns.put(Key.COLOUR, new Column(this.items, IndexedAsset::colours));
        for (Key key : Key.values()) {
            if (key.measure() != Key.Measure.NONE) {
                figures.put(
                        key,
                        this.items.stream()
                                .mapToDouble(item -> figure(key, item))
                                .toArray());
            }
        }
        Map<String, Integer> numbers = new HashMap<>();
        for (int i = 0; i < this.items.size(); i++) {
            numbers.put(this.items.get(i).id(), i);
        }
        uses = new int[this.items.size()];
        this.items.forEach(item -> item.uses().forEach(used -> {
            Integer number = numbers.get(used);
            if (number != null) {
                uses[number]++;
            }
        }));
    }

    /** Works out now what the first view of all assets needs. */
    public void prepareFirst() {
        order(Order.BEST);
    }

    /** Works out now what would be worked out when it is first asked for. */
    public void prepare() {
        vocabulary();
        for (Order order : Order.values()) {
            order(order);
        }
    }

    private synchronized Vocabulary vocabulary() {
        Vocabulary made = vocabulary;
        if (made == null) {
            made = new Vocabulary(items);
            vocabulary = made;
        }
        return made;
    }

    /** The assets' numbers in an order; by name where they are equal in it. */
    private synchronized int[] order(Order order) {
        int[] known = orders.get(order);
        if (known == null) {
            known = switch (order) {
                case NAME -> byName();
                case BEST -> byShelf();
                default -> permutation(comparator(order));
            };
            orders.put(order, known);
        }
        return known;
    }

    private int[] byName() {
        String[] names =
                items.stream().map(IndexedAsset::name).map(NaturalOrder::key).toArray(String[]::new);
        return permutation(Comparator.comparing((Integer i) -> names[i])
                .thenComparing(i -> items.get(i).folder()));
    }

    /** By shelf, and on it by name; the first shelf is shown in it, so that it is compared as numbers. */
    private int[] byShelf() {
        int[] shelves = columns.get(Key.SHELF).ranks();
        int[] named = order(Order.NAME);
        long[] keys = new long[named.length];
        for (int rank = 0; rank < named.length; rank++) {
            keys[rank] = (long) shelves[named[rank]] << Integer.SIZE | rank;
        }
        Arrays.sort(keys);
        return Arrays.stream(keys).mapToInt(key -> named[(int) key]).toArray();
    }

    private Comparator<Integer> comparator(Order order) {
        int[] ranks = new int[items.size()];
        int[] named = order(Order.NAME);
        for (int rank = 0; rank < named.length; rank++) {
            ranks[named[rank]] = rank;
        }
        Comparator<Integer> byRank = Comparator.comparingInt(i -> ranks[i]);
        return switch (order) {
            case NAME, BEST -> byRank;
            case DATE -> falling(figures.get(Key.CHANGED)).thenComparing(byRank);
            case SIZE -> falling(figures.get(Key.SIZE)).thenComparing(byRank);
            case TRIANGLES -> {
                double[] triangles = figures.get(Key.TRIANGLES);
                yield Comparator.comparingDouble((Integer i) -> triangles[i]).thenComparing(byRank);
            }
            case USE -> Comparator.comparingInt((Integer i) -> -uses[i]).thenComparing(byRank);
        };
    }

    private static Comparator<Integer> falling(double[] figures) {
        return Comparator.comparingDouble((Integer i) -> -figures[i]);
    }

    private static double largest(IndexedAsset item) {
        double[] size = item.size();
        return Math.max(size[0], Math.max(size[1], size[2]));
    }

    private int[] permutation(Comparator<Integer> order) {
        Integer[] numbers = new Integer[items.size()];
        Arrays.setAll(numbers, i -> i);
        Arrays.parallelSort(numbers, order);
        return Arrays.stream(numbers).mapToInt(Integer::intValue).toArray();
    }

    /** All assets. */
    public List<IndexedAsset> items() {
        return items;
    }

    /** The asset with an id. */
    public Optional<IndexedAsset> item(String id) {
        return items.stream().filter(item -> item.id().equals(id)).findFirst();
    }

    /** How many of the assets use an asset. */
    public int uses(IndexedAsset item) {
        int number = items.indexOf(item);
        return number < 0 ? 0 : uses[number];
    }

    /** Answers a search. */
    public Found find(Search search, Order order) {
        return find(search, order, item -> true);
    }

    /** Answers a search among some of the assets; what it divides into is counted among those. */
    public Found find(Search search, Order order, Predicate<IndexedAsset> among) {
        int n = items.size();
        int[] worth = new int[n];
        List<String> complaints = new ArrayList<>(search.complaints());
        boolean[] in = new boolean[n];
        for (int i = 0; i < n; i++) {
            in[i] = among.test(items.get(i));
        }
        for (Search.Word word : search.words()) {
            int[] of = new int[n];
            if (!vocabulary().add(word.folded(), of) && !word.not()) {
                complaints.add("nothing begins with “" + word.folded() + "”");
            }
            for (int i = 0; i < n; i++) {
                in[i] &= of[i] > 0 != word.not();
                worth[i] += word.not() ? 0 : of[i];
            }
        }
        for (Search.Filter filter : search.filters()) {
            filter(filter, in);
        }
        for (Search.Phrase phrase : search.phrases()) {
            // Comparing texts is dear: only those that have all of its words are asked.
            int[] having = new int[n];
            for (String word : phrase.words()) {
                int[] of = new int[n];
                vocabulary().add(word, of);
                for (int i = 0; i < n; i++) {
                    having[i] += of[i] > 0 ? 1 : 0;
                }
            }
            int all = phrase.words().size();
            for (int i = 0; i < n; i++) {
                in[i] = in[i] && (having[i] == all && says(items.get(i), phrase.words())) != phrase.not();
            }
        }
        int[] hits = ordered(
                in,
                search.ranks() && order == Order.BEST ? worth : null,
                order(search.ranks() && order == Order.BEST ? Order.NAME : order));
        return new Found(hits.length, new Listed(hits), facets(hits), complaints);
    }

    /** Those that are in, in an order; with their worth given, the most worth first, and in the order where equal. */
    private static int[] ordered(boolean[] in, int @org.jspecify.annotations.Nullable [] worth, int[] order) {
        int most = 0;
        if (worth != null) {
            for (int i = 0; i < worth.length; i++) {
                most = Math.max(most, in[i] ? worth[i] : 0);
            }
        }
        // A counting sort: the worths are small numbers.
        int[] starts = new int[most + 2];
        int count = 0;
        for (int i = 0; i < in.length; i++) {
            if (in[i]) {
                count++;
                starts[most - (worth == null ? 0 : worth[i]) + 1]++;
            }
        }
        for (int w = 1; w < starts.length; w++) {
            starts[w] += starts[w - 1];
        }
        int[] hits = new int[count];
        for (int number : order) {
            if (in[number]) {
                hits[starts[most - (worth == null ? 0 : worth[number])]++] = number;
            }
        }
        return hits;
    }

    private static boolean says(IndexedAsset item, List<String> phrase) {
        boolean[] found = new boolean[1];
        Vocabulary.texts(item, (place, text) -> found[0] |= begins(SearchTokens.of(SearchTokens.folded(text)), phrase));
        return found[0];
    }

    /** Whether words stand in a text one behind the other, of the last at least the beginning. */
    private static boolean begins(List<String> text, List<String> phrase) {
        int last = phrase.size() - 1;
        for (int at = 0; at + last < text.size(); at++) {
            if (text.subList(at, at + last).equals(phrase.subList(0, last))
                    && text.get(at + last).startsWith(phrase.get(last))) {
                return true;
            }
        }
        return false;
    }

    private Map<String, List<Found.Facet>> facets(int[] hits) {
        Map<String, List<Found.Facet>> facets = new LinkedHashMap<>();
        for (Key key : List.of(Key.KIND, Key.STATUS, Key.LICENCE, Key.TAG, Key.SHELF, Key.COLOUR)) {
            facets.put(key.word(), columns.get(key).count(hits, hits.length, MOST_FACETS));
        }
        return facets;
    }

    /** All that can be found, in no order. */
    List<IndexedAsset> all() {
        return items;
    }

    /** The values of a fact and how many assets have each, the most frequent first; none of facts that are not counted. */
    List<Found.Facet> values(Key key) {
        Column column = columns.get(key);
        int[] all = order(Order.NAME);
        return column == null ? List.of() : column.count(all, all.length, Integer.MAX_VALUE);
    }

    /** How many assets stand on each shelf itself, and have each tag. */
    public Map<String, Integer> counts(String fact) {
        Map<String, Integer> counts = new LinkedHashMap<>();
        values(Key.of(fact).orElseThrow()).forEach(facet -> counts.put(facet.value(), facet.count()));
        return counts;
    }

    private void filter(Search.Filter filter, boolean[] in) {
        switch (filter) {
            case Search.Filter.Range(Key key, double least, double most, boolean not) -> {
                double[] figure = figures.get(key);
                for (int i = 0; i < in.length; i++) {
                    in[i] = in[i] && (figure[i] >= least && figure[i] <= most) != not;
                }
            }
            case Search.Filter.Value(Key key, List<String> values, boolean not) -> {
                boolean[] having = having(key, values);
                for (int i = 0; i < in.length; i++) {
                    in[i] = in[i] && having[i] != not;
                }
            }
        }
    }

    /** Not a number where an asset has no surface: no range holds it. */
    private static double ofSurface(IndexedAsset item, double figure) {
        return item.hasSurface() ? figure : Double.NaN;
    }

    private static double figure(Key key, IndexedAsset item) {
        return switch (key) {
            case TRIANGLES -> ofSurface(item, item.triangles());
            case VERSIONS -> item.versions();
            case BONES -> item.moving().bones();
            case WIDTH -> ofSurface(item, item.size()[0]);
            case HEIGHT -> ofSurface(item, item.size()[1]);
            case DEPTH -> ofSurface(item, item.size()[2]);
            case SIZE -> ofSurface(item, largest(item));
            default -> item.changed();
        };
    }

    /** @param values tags; {@code none} is met by what has no tag, too */
    private boolean[] tagged(List<String> values) {
        boolean[] having = columns.get(Key.TAG).having(values::contains);
        if (values.contains("none")) {
            for (int i = 0; i < having.length; i++) {
                having[i] |= items.get(i).tags().isEmpty();
            }
        }
        return having;
    }

    private boolean[] having(Key key, List<String> values) {
        return switch (key) {
            case KIND, STATUS ->
                columns.get(key).having(value -> values.stream().anyMatch(value::startsWith));
            case LICENCE ->
                columns.get(key).having(value -> values.stream()
                        .anyMatch(each -> value.equals("none")
                                ? each.equals("none")
                                : value.startsWith(each)
                                        || List.of(value.split("[\\s()]+")).contains(each)));
            case COLOUR -> columns.get(key).having(value -> values.stream().anyMatch(value::startsWith));
            case TAG -> tagged(values);
            case SHELF -> columns.get(key).having(value -> values.stream().anyMatch(each -> isOrBelow(value, each)));
            case USES -> using(values);
            default -> {
                boolean[] having = new boolean[items.size()];
                for (int i = 0; i < having.length; i++) {
                    IndexedAsset item = items.get(i);
                    having[i] = values.stream().anyMatch(each -> holds(key, item, each));
                }
                yield having;
            }
        };
    }

    /** A shelf is named by its whole path, or by the last parts of one. */
    private static boolean isOrBelow(String shelf, String named) {
        return ("/" + shelf + "/").contains("/" + named + "/");
    }

    private static boolean holds(Key key, IndexedAsset item, String value) {
        return switch (key) {
            case NAME -> SearchTokens.folded(item.name()).contains(value);
            case CREDIT -> SearchTokens.folded(item.credit()).contains(value);
            case NOTES -> SearchTokens.folded(item.notes()).contains(value);
            case MATERIAL ->
                item.materials().stream()
                        .anyMatch(each -> SearchTokens.folded(each).contains(value));
            case PART ->
                item.parts().stream().anyMatch(each -> SearchTokens.folded(each).contains(value));
            case MOTION ->
                item.moving().motions().stream()
                        .anyMatch(each -> SearchTokens.folded(each).contains(value));
            case BLENDSHAPE ->
                item.moving().shapes().stream()
                        .anyMatch(each -> SearchTokens.folded(each).contains(value));
            case FIELD ->
                item.fields().entrySet().stream()
                        .anyMatch(each -> SearchTokens.folded(each.getKey() + "=" + each.getValue())
                                .contains(value));
            default -> item.id().equalsIgnoreCase(value);
        };
    }

    private boolean[] using(List<String> values) {
        Map<String, Boolean> wanted = new HashMap<>();
        for (IndexedAsset item : items) {
            String name = SearchTokens.folded(item.name());
            wanted.put(
                    item.id(),
                    values.stream()
                            .anyMatch(each -> name.contains(each) || item.id().equals(each)));
        }
        boolean[] using = new boolean[items.size()];
        for (int i = 0; i < using.length; i++) {
            using[i] = items.get(i).uses().stream().anyMatch(id -> wanted.getOrDefault(id, false));
        }
        return using;
    }

    /**
     * Why an asset was found, for a person: where its words stand, but for those in its name, which is seen anyway.
     * Empty where there is nothing to add.
     */
    public static String reason(Search search, IndexedAsset item) {
        List<String> reasons = new ArrayList<>();
        for (Search.Word word : search.words()) {
            if (!word.not()) {
                reason(word.folded(), item)
                        .filter(each -> !reasons.contains(each))
                        .ifPresent(reasons::add);
            }
        }
        return String.join(", ", reasons);
    }

    private static Optional<String> reason(String typed, IndexedAsset item) {
        String[] best = new String[1];
        int[] worth = new int[1];
        Vocabulary.texts(item, (place, text) -> {
            for (String word : SearchTokens.of(SearchTokens.folded(text))) {
                for (String key : SearchTokens.keys(word)) {
                    boolean begins = key.startsWith(typed);
                    boolean near = !begins && Vocabulary.forgives(typed) && SearchTokens.beginsNearly(key, typed);
                    int value = (begins ? 2 : near ? 1 : 0) * Place.weight(place.mask());
                    if (value > worth[0]) {
                        worth[0] = value;
                        best[0] = near
                                ? (place == Place.NAME ? "" : place.word() + " ") + "nearly “" + word + "”"
                                : place == Place.NAME ? "" : place.word() + " “" + text + "”";
                    }
                }
            }
        });
        return Optional.ofNullable(best[0]).filter(text -> !text.isEmpty());
    }

    /**
     * The assets whose shape is nearly a given one, whatever their size and turn, the likest first.
     *
     * @param least likeness, 0 to 1
     */
    public List<Alike> alike(ShapeDescriptor shape, double least, int most) {
        return items.parallelStream()
                .filter(item -> !item.shape().isEmpty())
                .map(item -> new Alike(
                        item,
                        ShapeDescriptor.ofCode(item.shape())
                                .map(shape::likeness)
                                .orElse(0.0),
                        false))
                .filter(alike -> alike.likeness() >= least)
                .sorted(Comparator.comparingDouble(Alike::likeness).reversed())
                .limit(most)
                .toList();
    }

    /** Items by their numbers. */
    private final class Listed extends AbstractList<IndexedAsset> implements RandomAccess {
        private final int[] numbers;

        private Listed(int[] numbers) {
            this.numbers = numbers;
        }

        @Override
        public IndexedAsset get(int index) {
            return items.get(numbers[index]);
        }

        @Override
        public int size() {
            return numbers.length;
        }
    }
}
