package pantry.desktop.view3d;

import java.nio.IntBuffer;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.animation.PauseTransition;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.ListChangeListener;
import javafx.geometry.Bounds;
import javafx.geometry.Point2D;
import javafx.scene.image.ImageView;
import javafx.scene.image.PixelBuffer;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Rectangle;
import javafx.util.Duration;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Theme;
import pantry.desktop.session.FxThread;
import pantry.render.Camera;
import pantry.render.Frame;
import pantry.render.Picking;
import pantry.render.RenderOptions;
import pantry.render.RenderScene;
import pantry.render.Renderer;

/**
 * A picture of a scene that is turned by dragging, moved by dragging with the other button, and brought nearer by the
 * wheel; all of it also by keys. Drawn in the background: coarsely while it moves where the machine is slow, and smoothed
 * once it rests.
 */
public final class View3d extends Pane {
    private static final double TURN_PER_PIXEL = 0.4;
    private static final double KEY_TURN = 7.5;
    private static final long SLOW_NANOS = 45_000_000L;
    private static final int COARSE = 2;
    private static final double CLICK_SLOP = 3;

    private final ImageView picture = new ImageView();
    private final ObjectProperty<RenderScene> scene = new SimpleObjectProperty<>(RenderScene.EMPTY);
    private final ObjectProperty<Camera> camera = new SimpleObjectProperty<>(Camera.START);

    /** How the view was framed last, and where it looked from then. */
    private UnaryOperator<Camera> framedBy = UnaryOperator.identity();

    private Optional<Camera> framedTo = Optional.empty();
    private final ObjectProperty<RenderOptions> options = new SimpleObjectProperty<>(RenderOptions.PLAIN);
    private final ObjectProperty<@Nullable PickHandler> onPick = new SimpleObjectProperty<>();
    private final ExecutorService drawer = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("view").factory());
    private final AtomicReference<@Nullable Request> pending = new AtomicReference<>();
    private final Renderer renderer = new Renderer();
    private final ListChangeListener<String> themeChanged = change -> followTheme();
    private final PauseTransition rest = new PauseTransition(Duration.millis(180));
    private boolean slow;
    private int drawing;
    private Point2D last = Point2D.ZERO;
    private Point2D pressed = Point2D.ZERO;
    private int @Nullable [] ids;
    private int idsWidth;
    private int idsScale = 1;
    private final Rectangle band = new Rectangle();
    private final Region ring = new Region();
    private Optional<BandHandler> onBand = Optional.empty();
    private Optional<Consumer<MouseEvent>> onMenu = Optional.empty();

    /** Called when a band was drawn around things. */
    @FunctionalInterface
    public interface BandHandler {
        /** @param area in this view's own space, pixels */
        void drawn(Bounds area, MouseEvent event);
    }

    /** Called when something is clicked. */
    @FunctionalInterface
    public interface PickHandler {
        /** @param owner the path of the object under the mouse; empty on the ground */
        void picked(Optional<String> owner, MouseEvent event);
    }

    /** How finely a picture is drawn. */
    private enum Fineness {
        COARSE,
        PLAIN,
        SMOOTH
    }

    private record Request(
            RenderScene scene, Camera camera, RenderOptions options, int width, int height, Fineness fineness) {}

    public View3d() {
        getStyleClass().add("view3d");
        band.getStyleClass().add("choosing-band");
        band.setVisible(false);
        band.setManaged(false);
        band.setMouseTransparent(true);
        // The picture covers whatever border the view has.
        ring.getStyleClass().add("focus-ring");
        ring.setMouseTransparent(true);
        ring.setManaged(false);
        ring.visibleProperty().bind(focusVisibleProperty());
        getChildren().addAll(picture, band, ring);
        setFocusTraversable(true);
        setMinSize(80, 80);
        setAccessibleText("View; drag to turn, drag with the right button to move, wheel to come nearer");
        scene.addListener(change -> redraw(false));
        camera.addListener(change -> redraw(true));
        options.addListener(change -> redraw(false));
        widthProperty().addListener(change -> resized());
        heightProperty().addListener(change -> resized());
        sceneProperty().addListener((property, before, now) -> {
            if (before != null) {
                before.getRoot().getStyleClass().removeListener(themeChanged);
            }
            if (now != null) {
                now.getRoot().getStyleClass().addListener(themeChanged);
                followTheme();
            }
        });
        rest.setOnFinished(event -> request(Fineness.SMOOTH));
        addEventHandler(MouseEvent.MOUSE_PRESSED, this::press);
        addEventHandler(MouseEvent.MOUSE_DRAGGED, this::drag);
        addEventHandler(MouseEvent.MOUSE_RELEASED, this::release);
        addEventHandler(ScrollEvent.SCROLL, this::scroll);
        addEventHandler(KeyEvent.KEY_PRESSED, this::key);
    }

    public ObjectProperty<RenderScene> drawnProperty() {
        return scene;
    }

    public ObjectProperty<Camera> cameraProperty() {
        return camera;
    }

    public ObjectProperty<RenderOptions> optionsProperty() {
        return options;
    }

    public void setOnPick(PickHandler handler) {
        onPick.set(handler);
    }

    /** Lets bands be drawn around things, by dragging with the shortcut key held. */
    public void setOnBand(BandHandler handler) {
        onBand = Optional.of(handler);
    }

    /** Called when the other button is clicked, rather than dragged. */
    public void setOnMenu(Consumer<MouseEvent> handler) {
        onMenu = Optional.of(handler);
    }

    /** Takes over the colours of day or night; the window's root has a style class for it. */
    private void followTheme() {
        // One that is told how to be drawn by another view follows that one.
        if (getScene() != null && !options.isBound()) {
            boolean night = Theme.isNight(getScene());
            options.set(options.get().withBackground(Theme.viewGround(night)).withGridColour(Theme.viewGrid(night)));
        }
    }

    /** Whether the picture on the screen is the finished one of what is set. */
    public boolean settled() {
        return drawing == 0 && pending.get() == null && rest.getStatus() != javafx.animation.Animation.Status.RUNNING;
    }

    /** Shows everything. */
    public void frameAll() {
        framed(now -> now.framing(scene.get().boxes(), aspect()));
    }

    /** Shows a box. */
    public void frame(Box3 box) {
        if (!box.isEmpty()) {
            framed(now -> now.framing(box, aspect()));
        }
    }

    /** Whether nothing of what is drawn is cut off by the picture's edges. */
    public boolean showsAll() {
        return scene.get().boxes().stream()
                .allMatch(box -> box.isEmpty() || camera.get().shows(box, (int) getWidth(), (int) getHeight()));
    }

    private void framed(UnaryOperator<Camera> framing) {
        camera.set(framing.apply(camera.get()));
        framedBy = framing;
        framedTo = Optional.of(camera.get());
    }

    /** What was framed, and not turned or moved since, is framed in another size as well. */
    private void resized() {
        ring.resizeRelocate(0, 0, getWidth(), getHeight());
        if (framedTo.filter(camera.get()::equals).isPresent()) {
            framed(framedBy);
        }
        redraw(false);
    }

    private double aspect() {
        return getHeight() > 0 && getWidth() > 0 ? getWidth() / getHeight() : 1.5;
    }

    private void redraw(boolean moving) {
        request(moving && slow ? Fineness.COARSE : Fineness.PLAIN);
        rest.playFromStart();
    }

    private void request(Fineness fineness) {
        int width = (int) getWidth();
        int height = (int) getHeight();
        if (width < 8 || height < 8) {
            return;
        }
        renderer.stop();
        Request request = new Request(scene.get(), camera.get(), options.get(), width, height, fineness);
        if (pending.getAndSet(request) == null) {
            drawing++;
            drawer.execute(this::drawPending);
        }
    }

    private void drawPending() {
        Request request = pending.getAndSet(null);
        try {
            if (request != null) {
                draw(request);
            }
        } catch (CancellationException e) {
            // Something newer is to be drawn.
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } finally {
            FxThread.later(() -> drawing--);
        }
    }

    private void draw(Request request) throws InterruptedException {
        long start = System.nanoTime();
        Frame frame =
                switch (request.fineness) {
                    case COARSE ->
                        renderer.drawSoon(
                                request.scene,
                                request.camera,
                                request.width / COARSE,
                                request.height / COARSE,
                                request.options);
                    case PLAIN ->
                        renderer.drawSoon(
                                request.scene, request.camera, request.width, request.height, request.options);
                    case SMOOTH ->
                        renderer.drawSmooth(
                                request.scene, request.camera, request.width, request.height, request.options);
                };
        long took = System.nanoTime() - start;
        CountDownLatch copied = new CountDownLatch(1);
        FxThread.later(() -> {
            show(frame, request, took);
            copied.countDown();
        });
        // The frame's buffers may be the renderer's: they must not change before they are copied.
        copied.await();
    }

    private void show(Frame frame, Request request, long took) {
        if (request.fineness == Fineness.PLAIN) {
            slow = took > SLOW_NANOS;
        }
        IntBuffer copy = IntBuffer.allocate(frame.argb().length);
        copy.put(frame.argb()).flip();
        PixelBuffer<IntBuffer> pixels =
                new PixelBuffer<>(frame.width(), frame.height(), copy, PixelFormat.getIntArgbPreInstance());
        picture.setImage(new WritableImage(pixels));
        picture.setFitWidth(request.width);
        picture.setFitHeight(request.height);
        ids = frame.ids().clone();
        idsWidth = frame.width();
        idsScale = request.fineness == Fineness.COARSE ? COARSE : 1;
    }

    /** The path of the object that is seen at a point of this view. */
    public Optional<String> ownerAt(double x, double y) {
        int[] seen = ids;
        if (seen == null || idsWidth == 0) {
            return Optional.empty();
        }
        int px = (int) x / idsScale;
        int py = (int) y / idsScale;
        if (px < 0 || py < 0 || px >= idsWidth || py >= seen.length / idsWidth) {
            return Optional.empty();
        }
        return scene.get().owner(seen[py * idsWidth + px]);
    }

    /** Where the floor, or a level above it, is under a point of this view. */
    public Vec3 groundAt(double x, double y, double level) {
        return camera.get().onGround(x, y, (int) getWidth(), (int) getHeight(), level);
    }

    /**
     * What surface is under a point of this view.
     *
     * @param without paths of objects that are seen through
     */
    public Optional<Picking.Hit> hitAt(double x, double y, Set<String> without) {
        Vec3 ray = camera.get().ray(x, y, (int) getWidth(), (int) getHeight());
        return Picking.hit(scene.get(), camera.get().eye(), ray, without);
    }

    /** Where a point of the world appears in this view; z is not positive behind the eye. */
    public Vec3 project(Vec3 world) {
        return camera.get().project(world, (int) getWidth(), (int) getHeight());
    }

    private void press(MouseEvent event) {
        requestFocus();
        last = new Point2D(event.getX(), event.getY());
        pressed = last;
        event.consume();
    }

    private void drag(MouseEvent event) {
        Point2D now = new Point2D(event.getX(), event.getY());
        if (isBand(event)) {
            showBand(now);
            event.consume();
            return;
        }
        Point2D by = now.subtract(last);
        last = now;
        if (event.getButton() == MouseButton.PRIMARY && !event.isShiftDown()) {
            camera.set(camera.get().orbited(-by.getX() * TURN_PER_PIXEL, by.getY() * TURN_PER_PIXEL));
        } else {
            double metres = camera.get().metresPerPixel((int) getHeight());
            camera.set(camera.get().panned(-by.getX() * metres, by.getY() * metres));
        }
        event.consume();
    }

    /** Whether a band is being drawn: one that was begun goes on, whatever becomes of the key. */
    private boolean isBand(MouseEvent event) {
        return onBand.isPresent()
                && event.getButton() == MouseButton.PRIMARY
                && (band.isVisible() || event.isShortcutDown());
    }

    private void showBand(Point2D to) {
        band.setX(Math.min(pressed.getX(), to.getX()));
        band.setY(Math.min(pressed.getY(), to.getY()));
        band.setWidth(Math.abs(to.getX() - pressed.getX()));
        band.setHeight(Math.abs(to.getY() - pressed.getY()));
        band.setVisible(true);
    }

    /** The paths of the objects that are seen in an area of this view. */
    public Set<String> ownersIn(Bounds area) {
        Set<Integer> numbers = new HashSet<>();
        int[] seen = ids;
        if (seen != null && idsWidth > 0) {
            int rows = seen.length / idsWidth;
            int right = Math.min(idsWidth - 1, (int) area.getMaxX() / idsScale);
            int bottom = Math.min(rows - 1, (int) area.getMaxY() / idsScale);
            for (int y = Math.max(0, (int) area.getMinY() / idsScale); y <= bottom; y++) {
                for (int x = Math.max(0, (int) area.getMinX() / idsScale); x <= right; x++) {
                    numbers.add(seen[y * idsWidth + x]);
                }
            }
        }
        Set<String> paths = new LinkedHashSet<>();
        numbers.forEach(number -> scene.get().owner(number).ifPresent(paths::add));
        return paths;
    }

    /** Whether all of a box is seen in an area of this view; false where a corner is behind the eye. */
    public boolean isWithin(Box3 box, Bounds area) {
        for (int corner = 0; corner < 8; corner++) {
            Vec3 at = project(new Vec3(
                    (corner & 1) == 0 ? box.min().x() : box.max().x(),
                    (corner & 2) == 0 ? box.min().y() : box.max().y(),
                    (corner & 4) == 0 ? box.min().z() : box.max().z()));
            if (at.z() <= 0 || !area.contains(at.x(), at.y())) {
                return false;
            }
        }
        return !box.isEmpty();
    }

    private void release(MouseEvent event) {
        if (band.isVisible()) {
            band.setVisible(false);
            onBand.ifPresent(handler -> handler.drawn(band.getBoundsInParent(), event));
            event.consume();
            return;
        }
        boolean still = pressed.distance(event.getX(), event.getY()) <= CLICK_SLOP;
        if (still && event.getButton() == MouseButton.SECONDARY) {
            onMenu.ifPresent(handler -> handler.accept(event));
        }
        PickHandler handler = onPick.get();
        if (handler != null && event.getButton() == MouseButton.PRIMARY && still) {
            handler.picked(ownerAt(event.getX(), event.getY()), event);
        }
        event.consume();
    }

    private void scroll(ScrollEvent event) {
        camera.set(camera.get().dollied(Math.pow(0.998, event.getDeltaY())));
        event.consume();
    }

    private void key(KeyEvent event) {
        if (event.isShortcutDown() || event.isAltDown()) {
            return;
        }
        Camera now = camera.get();
        double step = now.metresPerPixel((int) getHeight()) * 40;
        KeyCode code = event.getCode();
        Camera next =
                switch (code) {
                    case LEFT -> event.isShiftDown() ? now.panned(-step, 0) : now.orbited(-KEY_TURN, 0);
                    case RIGHT -> event.isShiftDown() ? now.panned(step, 0) : now.orbited(KEY_TURN, 0);
                    case UP -> event.isShiftDown() ? now.panned(0, step) : now.orbited(0, KEY_TURN);
                    case DOWN -> event.isShiftDown() ? now.panned(0, -step) : now.orbited(0, -KEY_TURN);
                    case PLUS, ADD, EQUALS -> now.dollied(0.85);
                    case MINUS, SUBTRACT -> now.dollied(1 / 0.85);
                    default -> now;
                };
        if (code == KeyCode.HOME) {
            frameAll();
            event.consume();
        } else if (next != now) {
            camera.set(next);
            event.consume();
        }
    }
}
