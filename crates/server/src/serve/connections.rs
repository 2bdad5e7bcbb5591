//! Connections: few enough for the files this process may open, half-open ones given up first, all of
//! them ended within seconds when the server goes down.

use axum::Router;
use axum::body::Body;
use axum::extract::ConnectInfo;
use hyper::body::Incoming;
use hyper_util::rt::{TokioIo, TokioTimer};
use std::io;
use std::net::{IpAddr, SocketAddr};
use std::pin::Pin;
use std::sync::atomic::{AtomicU64, AtomicUsize, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use std::task::{Context, Poll};
use std::time::{Duration, Instant};
use tokio::io::{AsyncRead, AsyncWrite, ReadBuf};
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::{Notify, watch};
use tokio::task::JoinSet;
use tokio_rustls::TlsAcceptor;
use tower::ServiceExt as _;
use tower_http::timeout::RequestBodyTimeout;

/// Connections at once; a process may open 1,024 files as a rule.
const IN_ALL: usize = 400;
/// Of them from one address, unless it is a proxy that is trusted.
const PER_ADDRESS: usize = 128;
/// How long the head of a request may take, and how long nobody may send anything of its body.
const HEAD: Duration = Duration::from_secs(15);
const BODY: Duration = Duration::from_secs(20);
const HANDSHAKE: Duration = Duration::from_secs(10);
/// How long requests under way may take when the server goes down.
const LAST: Duration = Duration::from_secs(7);

/// One connection, as far as giving it up goes.
#[derive(Debug)]
struct Open {
    address: IpAddr,
    /// Requests that are being answered.
    busy: AtomicUsize,
    /// When a byte last moved, milliseconds since the server began.
    moved: AtomicU64,
    give_up: Notify,
}

/// All connections.
#[derive(Debug, Clone)]
pub struct Connections {
    open: Arc<Mutex<Vec<Arc<Open>>>>,
    began: Instant,
    proxies: Arc<[IpAddr]>,
}

/// A stream that notes when a byte moved.
struct Noted<S> {
    inner: S,
    own: Arc<Open>,
    began: Instant,
}

impl<S> Noted<S> {
    fn note(&self) {
        let at = u64::try_from(self.began.elapsed().as_millis()).unwrap_or(u64::MAX);
        self.own.moved.store(at, Ordering::Relaxed);
    }
}

impl<S: AsyncRead + Unpin> AsyncRead for Noted<S> {
    fn poll_read(
        mut self: Pin<&mut Self>,
        cx: &mut Context<'_>,
        buf: &mut ReadBuf<'_>,
    ) -> Poll<io::Result<()>> {
        let done = Pin::new(&mut self.inner).poll_read(cx, buf);
        if done.is_ready() {
            self.note();
        }
        done
    }
}

impl<S: AsyncWrite + Unpin> AsyncWrite for Noted<S> {
    fn poll_write(mut self: Pin<&mut Self>, cx: &mut Context<'_>, bytes: &[u8]) -> Poll<io::Result<usize>> {
        let done = Pin::new(&mut self.inner).poll_write(cx, bytes);
        if done.is_ready() {
            self.note();
        }
        done
    }
    fn poll_flush(mut self: Pin<&mut Self>, cx: &mut Context<'_>) -> Poll<io::Result<()>> {
        Pin::new(&mut self.inner).poll_flush(cx)
    }
    fn poll_shutdown(mut self: Pin<&mut Self>, cx: &mut Context<'_>) -> Poll<io::Result<()>> {
        Pin::new(&mut self.inner).poll_shutdown(cx)
    }
    fn is_write_vectored(&self) -> bool {
        self.inner.is_write_vectored()
    }
    fn poll_write_vectored(
        mut self: Pin<&mut Self>,
        cx: &mut Context<'_>,
        bytes: &[io::IoSlice<'_>],
    ) -> Poll<io::Result<usize>> {
        let done = Pin::new(&mut self.inner).poll_write_vectored(cx, bytes);
        if done.is_ready() {
            self.note();
        }
        done
    }
}

/// A place among the connections; free again when this is dropped.
struct Place {
    own: Arc<Open>,
    all: Connections,
}

impl Drop for Place {
    fn drop(&mut self) {
        self.all.lock().retain(|open| !Arc::ptr_eq(open, &self.own));
    }
}

impl Connections {
    /// None yet; the addresses are those of proxies, which bring the requests of many.
    pub fn new(proxies: &[IpAddr]) -> Self {
        Self { open: Arc::default(), began: Instant::now(), proxies: proxies.into() }
    }

    fn lock(&self) -> std::sync::MutexGuard<'_, Vec<Arc<Open>>> {
        self.open.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// A place for a new connection; where there is none, the one that has said nothing for longest
    /// gives its own up. None: all are being answered.
    fn place(&self, address: IpAddr) -> Option<Place> {
        let mut open = self.lock();
        let same = |o: &Arc<Open>| o.address == address;
        let crowded =
            !self.proxies.contains(&address) && open.iter().filter(|o| same(o)).count() >= PER_ADDRESS;
        if crowded || open.len() >= IN_ALL {
            let idle = open
                .iter()
                .filter(|o| o.busy.load(Ordering::SeqCst) == 0 && (!crowded || same(o)))
                .min_by_key(|o| o.moved.load(Ordering::Relaxed))
                .cloned()?;
            idle.give_up.notify_one();
            open.retain(|o| !Arc::ptr_eq(o, &idle));
        }
        let moved = u64::try_from(self.began.elapsed().as_millis()).unwrap_or(u64::MAX);
        let own = Arc::new(Open {
            address,
            busy: AtomicUsize::new(0),
            moved: AtomicU64::new(moved),
            give_up: Notify::new(),
        });
        open.push(Arc::clone(&own));
        drop(open);
        Some(Place { own, all: self.clone() })
    }
}

/// Counts a request as being answered for as long as this lives.
struct Busy(Arc<Open>);

impl Busy {
    fn new(own: &Arc<Open>) -> Self {
        own.busy.fetch_add(1, Ordering::SeqCst);
        Self(Arc::clone(own))
    }
}

impl Drop for Busy {
    fn drop(&mut self) {
        self.0.busy.fetch_sub(1, Ordering::SeqCst);
    }
}

async fn answer<S>(stream: S, place: Place, peer: SocketAddr, app: Router, mut stop: watch::Receiver<bool>)
where
    S: AsyncRead + AsyncWrite + Unpin + Send + 'static,
{
    let own = Arc::clone(&place.own);
    let stream = Noted { inner: stream, own: Arc::clone(&own), began: place.all.began };
    let counted = Arc::clone(&own);
    let service = hyper::service::service_fn(move |mut request: hyper::Request<Incoming>| {
        let busy = Busy::new(&counted);
        request.extensions_mut().insert(ConnectInfo(peer));
        let app = RequestBodyTimeout::new(app.clone(), BODY);
        async move {
            let response: Result<hyper::Response<Body>, std::convert::Infallible> =
                app.oneshot(request).await;
            drop(busy);
            response
        }
    });
    let connection = hyper::server::conn::http1::Builder::new()
        .timer(TokioTimer::new())
        .header_read_timeout(HEAD)
        .serve_connection(TokioIo::new(stream), service);
    tokio::pin!(connection);
    loop {
        tokio::select! {
            done = connection.as_mut() => {
                if let Err(error) = done {
                    tracing::debug!(%error, "a connection broke");
                }
                break;
            }
            () = own.give_up.notified() => break,
            _ = stop.changed() => connection.as_mut().graceful_shutdown(),
        }
    }
}

async fn connection(
    stream: TcpStream,
    place: Place,
    peer: SocketAddr,
    (app, tls): (Router, Option<TlsAcceptor>),
    stop: watch::Receiver<bool>,
) {
    let _ = stream.set_nodelay(true);
    let Some(tls) = tls else { return answer(stream, place, peer, app, stop).await };
    let own = Arc::clone(&place.own);
    let shaken = tokio::select! {
        shaken = tokio::time::timeout(HANDSHAKE, tls.accept(stream)) => shaken,
        () = own.give_up.notified() => return,
    };
    match shaken {
        Ok(Ok(stream)) => answer(stream, place, peer, app, stop).await,
        Ok(Err(error)) => tracing::debug!(%error, "no TLS"),
        Err(_elapsed) => tracing::debug!("TLS took too long"),
    }
}

/// Answers until `shutdown` resolves, and then for a few seconds those who are being answered.
pub async fn run(
    listener: TcpListener,
    app: Router,
    tls: Option<TlsAcceptor>,
    connections: Connections,
    shutdown: impl Future<Output = ()>,
) {
    let (stop, stopped) = watch::channel(false);
    let mut tasks = JoinSet::new();
    tokio::pin!(shutdown);
    loop {
        let accepted = tokio::select! {
            accepted = listener.accept() => accepted,
            () = shutdown.as_mut() => break,
            // Ended ones are let go.
            Some(_done) = tasks.join_next() => continue,
        };
        match accepted {
            Ok((stream, peer)) => {
                let Some(place) = connections.place(peer.ip().to_canonical()) else {
                    tracing::warn!(address = %peer.ip(), "too many connections; one was refused");
                    continue;
                };
                tasks.spawn(connection(stream, place, peer, (app.clone(), tls.clone()), stopped.clone()));
            }
            Err(error) => {
                // No file left, as a rule: soon there is one again.
                tracing::warn!(%error, "a connection was not taken");
                tokio::time::sleep(Duration::from_millis(50)).await;
            }
        }
    }
    drop(listener);
    let _ = stop.send(true);
    let _ = tokio::time::timeout(LAST, async { while tasks.join_next().await.is_some() {} }).await;
    tasks.shutdown().await;
}

#[cfg(test)]
mod tests {
    use super::*;

    fn from(last: u8) -> IpAddr {
        IpAddr::from([192, 168, 0, last])
    }

    #[test]
    fn the_one_that_said_nothing_for_longest_gives_its_place_up() {
        let all = Connections::new(&[]);
        let mut places: Vec<Place> = (0..PER_ADDRESS).map(|_| all.place(from(1)).unwrap()).collect();
        for (at, place) in (1..).zip(&places) {
            place.own.moved.store(at, Ordering::Relaxed);
        }
        places[0].own.busy.store(1, Ordering::SeqCst);
        let other = all.place(from(2)).unwrap();
        let last = all.place(from(1)).unwrap();
        let open = all.lock().clone();
        assert_eq!(open.len(), PER_ADDRESS + 1);
        let is_open = |place: &Place| open.iter().any(|o| Arc::ptr_eq(o, &place.own));
        assert!(is_open(&places[0]), "it is being answered");
        assert!(!is_open(&places[1]) && is_open(&places[2]) && is_open(&other) && is_open(&last));
        places.clear();
        assert_eq!(all.lock().len(), 2);
    }

    #[test]
    fn where_all_are_being_answered_a_new_one_is_refused_and_a_proxy_brings_many() {
        let all = Connections::new(&[from(9)]);
        let busy = |address| {
            let place = all.place(address)?;
            place.own.busy.store(1, Ordering::SeqCst);
            Some(place)
        };
        let own: Vec<Place> = (0..PER_ADDRESS).filter_map(|_| busy(from(1))).collect();
        assert!(all.place(from(1)).is_none());
        let by_proxy: Vec<Place> = (0..IN_ALL - PER_ADDRESS).filter_map(|_| busy(from(9))).collect();
        assert_eq!(own.len() + by_proxy.len(), IN_ALL);
        assert!(all.place(from(9)).is_none() && all.place(from(3)).is_none());
    }
}
