package pantry.desktop.session;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.catalogue.Finder;
import pantry.catalogue.Found;
import pantry.catalogue.IndexedAsset;
import pantry.catalogue.Order;
import pantry.catalogue.Search;
import pantry.catalogue.SearchSuggestions;
import pantry.catalogue.SearchText;
import pantry.model.ShapeDescriptor;
import pantry.project.Reach;
import pantry.workbench.Personal;

/**
 * The one search over the open libraries: what is asked and what answers it. Answers are computed in the background; of
 * several questions only the last is answered. Changes on the interface's thread only.
 */
public final class AssetSearch {
    /** How alike two shapes must be to be found, 0 to 1. */
    private static final double ALIKE = 0.55;

    private static final int MOST_ALIKE = 200;
    private static final Found NOTHING = new Found(0, List.of(), Map.of(), List.of());

    private final Session session;
    private final LatestWork questions;
    private final StringProperty words = new SimpleStringProperty("");
    private final ObjectProperty<SearchScope> scope = new SimpleObjectProperty<>(new SearchScope.All());
    private final ObjectProperty<Order> order = new SimpleObjectProperty<>(Order.BEST);
    private final ReadOnlyObjectWrapper<Found> found = new ReadOnlyObjectWrapper<>(NOTHING);
    private final ReadOnlyObjectWrapper<Search> query = new ReadOnlyObjectWrapper<>(Search.ALL);
    private final ReadOnlyIntegerWrapper everywhere = new ReadOnlyIntegerWrapper();
    private final ObservableList<IndexedAsset> items = FXCollections.observableArrayList();
    private final List<Runnable> onceAnswered = new ArrayList<>();

    /** What a question is made of, taken when it is asked. */
    private record Question(
            Finder finder,
            String words,
            SearchScope scope,
            Order order,
            List<String> favourites,
            List<String> recent,
            Optional<Reach> reach) {}

    private record Answer(Search query, Found found, int everywhere) {}

    public AssetSearch(Session session) {
        this.session = session;
        this.questions = new LatestWork(session.background());
        words.addListener(change -> ask());
        scope.addListener(change -> ask());
        order.addListener(change -> ask());
        session.shelving().contentsProperty().addListener(change -> ask());
        session.reachProperty().addListener(change -> {
            if (!ProjectTerms.of(words.get()).terms().isEmpty()) {
                ask();
            }
        });
    }

    /** What is looked for, in the search language. */
    public StringProperty wordsProperty() {
        return words;
    }

    /** Where it is looked for. */
    public ObjectProperty<SearchScope> scopeProperty() {
        return scope;
    }

    public ObjectProperty<Order> orderProperty() {
        return order;
    }

    /** The last answer, with its facets and what was not understood. */
    public ReadOnlyObjectProperty<Found> foundProperty() {
        return found.getReadOnlyProperty();
    }

    /** The question that {@link #foundProperty} answers. */
    public ReadOnlyObjectProperty<Search> queryProperty() {
        return query.getReadOnlyProperty();
    }

    /** What was found, in order. */
    public ObservableList<IndexedAsset> items() {
        return items;
    }

    /** Whether what is found does not yet answer what is asked, or is of libraries that are still being read. */
    public boolean isPending() {
        return questions.isPending()
                || !session.shelving().contentsProperty().get().isRead();
    }

    /** Adds a condition to what is looked for, or takes it away again. */
    public void narrow(String key, String value) {
        String term = SearchText.term(key, value);
        String now = words.get().strip();
        words.set(
                isNarrowed(key, value)
                        ? (" " + now + " ").replace(" " + term + " ", " ").strip()
                        : (now + " " + term).strip());
    }

    /** Whether a condition is part of what is looked for. */
    public boolean isNarrowed(String key, String value) {
        return (" " + words.get().strip() + " ").contains(" " + SearchText.term(key, value) + " ");
    }

    /** Looks for everything, everywhere. */
    public void clear() {
        words.set("");
        scope.set(new SearchScope.All());
    }

    /** Does something once what is found answers what is asked: at once where it does. */
    public void onceAnswered(Runnable action) {
        if (questions.isPending()) {
            onceAnswered.add(action);
        } else {
            action.run();
        }
    }

    /** Asks again, where something else than the question has changed. */
    public void ask() {
        Personal personal = session.workbench().personal();
        Question question = new Question(
                session.shelving().finder(),
                words.get(),
                scope.get(),
                order.get(),
                personal.favourites(),
                personal.recent(),
                session.projects().isEmpty()
                        ? Optional.empty()
                        : session.reachProperty().get());
        questions.answer("looking", progress -> answer(question), answer -> {
            query.set(answer.query());
            everywhere.set(answer.everywhere());
            items.setAll(answer.found().items());
            found.set(answer.found());
            List<Runnable> waiting = List.copyOf(onceAnswered);
            onceAnswered.clear();
            waiting.forEach(Runnable::run);
        });
    }

    private static Answer answer(Question question) {
        ProjectTerms terms = ProjectTerms.of(question.words());
        Search wanted = SearchText.parse(terms.rest());
        Predicate<IndexedAsset> fulfilled = terms.fulfilled(question.reach());
        Found found = find(question, wanted, fulfilled);
        int everywhere = question.scope() instanceof SearchScope.All
                        || question.words().isBlank()
                ? found.count()
                : question.finder().find(wanted, question.order(), fulfilled).count();
        return new Answer(
                wanted,
                terms.complaint(question.reach()).map(found::complaining).orElse(found),
                everywhere);
    }

    private static Found find(Question question, Search wanted, Predicate<IndexedAsset> fulfilled) {
        Finder finder = question.finder();
        Order by = question.order();
        return switch (question.scope()) {
            case SearchScope.All() -> finder.find(wanted, by, fulfilled);
            case SearchScope.OnShelf(Path library, String path) ->
                finder.find(
                        wanted,
                        by,
                        fulfilled.and(item -> item.library().equals(library.toString())
                                && (item.shelf().equals(path) || item.shelf().startsWith(path + "/"))));
            case SearchScope.Whole(Path library, String name) ->
                finder.find(wanted, by, fulfilled.and(item -> item.library().equals(library.toString())));
            case SearchScope.Favourites() -> {
                Set<String> ids = new LinkedHashSet<>(question.favourites());
                yield finder.find(wanted, by, fulfilled.and(item -> ids.contains(item.id())));
            }
            case SearchScope.Recent() -> {
                Map<String, Integer> ranks = new HashMap<>();
                question.recent().forEach(id -> ranks.put(id, ranks.size()));
                Found all = finder.find(wanted, by, fulfilled.and(item -> ranks.containsKey(item.id())));
                yield listed(
                        all,
                        all.items().stream()
                                .sorted(Comparator.comparing(item -> ranks.get(item.id())))
                                .toList());
            }
            case SearchScope.Alike(IndexedAsset like) -> {
                Map<String, Integer> ranks = new HashMap<>();
                ShapeDescriptor.ofCode(like.shape()).stream()
                        .flatMap(shape -> finder.alike(shape, ALIKE, MOST_ALIKE).stream())
                        .forEach(each -> ranks.put(each.item().folder(), ranks.size()));
                Found all = finder.find(wanted, by, fulfilled.and(item -> ranks.containsKey(item.folder())));
                yield listed(
                        all,
                        all.items().stream()
                                .sorted(Comparator.comparing(item -> ranks.get(item.folder())))
                                .toList());
            }
        };
    }

    private static Found listed(Found all, List<IndexedAsset> items) {
        return new Found(items.size(), items, all.facets(), all.complaints());
    }

    /** How many assets the same words find on all shelves. */
    public ReadOnlyIntegerProperty everywhereProperty() {
        return everywhere.getReadOnlyProperty();
    }

    /** What the words that are being typed may go on with. */
    public List<SearchSuggestions.Suggestion> suggestions(String typed) {
        return SearchSuggestions.of(typed, session.shelving().finder());
    }
}
